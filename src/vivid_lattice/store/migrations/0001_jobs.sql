-- A job is a chain of revisions. Revisions are only ever added; `head` says which one is open, so that undo and
-- redo move a pointer and lose nothing.

create table job (
    id          text primary key,
    head        integer not null,
    created_at  text not null,
    archived_at text,
    foreign key (id, head) references revision (job_id, number) deferrable initially deferred
) strict;

create table revision (
    job_id   text not null references job (id) deferrable initially deferred,
    number   integer not null check (number >= 1),
    parent   integer,
    document text not null check (json_valid(document)),
    words    text not null,
    author   text not null,
    saved_at text not null,
    primary key (job_id, number),
    foreign key (job_id, parent) references revision (job_id, number),
    check (parent is null or parent < number)
) strict, without rowid;

create index revision_by_parent on revision (job_id, parent);

create trigger revision_is_never_changed before update on revision
begin select raise(abort, 'a revision is never changed'); end;

create trigger revision_is_never_removed before delete on revision
begin select raise(abort, 'a revision is never removed'); end;
