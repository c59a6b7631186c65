-- Conductors of a wiring list that are in: which board, which conductor, and what it was when it was ticked. A tick that was
-- wrong is taken back and stays. Photos are kept re-encoded, with a small one beside each; what is thrown away goes.

create table wired (
    id       integer primary key,
    job_id   text not null references job (id),
    board    text not null,
    wire     text not null,
    as_made  text not null,
    at       text not null,
    back_at  text
) strict;

create unique index wired_once on wired (job_id, board, wire) where back_at is null;

create table photo (
    id       text primary key,
    job_id   text not null references job (id),
    board    text not null,
    way      integer,
    caption  text not null,
    width    integer not null check (width > 0),
    height   integer not null check (height > 0),
    image    blob not null,
    small    blob not null,
    at       text not null
) strict;

create index photo_by_job on photo (job_id, board, way);
