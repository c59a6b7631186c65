-- Devices that opened, as somebody noticed: when, which, what ran. A line that was wrong is struck out and stays.

create table trip (
    id        integer primary key,
    job_id    text not null references job (id),
    at        text not null,
    device    text not null,
    ran       text not null check (json_valid(ran)),
    note      text not null,
    added_at  text not null,
    struck_at text
) strict;

create index trip_by_job on trip (job_id, at);

create trigger trip_is_never_removed before delete on trip
begin select raise(abort, 'a trip is struck out, never removed'); end;
