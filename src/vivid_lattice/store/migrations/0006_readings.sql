-- Every reading that a saved revision held, as it was first saved. Nothing is changed or removed here: a correction is a reading of its
-- own that names the one it replaces.

create table reading (
    job_id    text not null references job (id),
    id        text not null,
    body      text not null,
    revision  integer,
    kept_at   text not null,
    primary key (job_id, id)
) strict;

create trigger reading_is_kept before delete on reading
begin
    select raise(abort, 'a reading is never deleted');
end;

create trigger reading_is_as_saved before update on reading
begin
    select raise(abort, 'a reading is never changed');
end;
