-- Readings that came from two places and contradict each other: the one that came later waits here until it is decided.

create table undecided_reading (
    job_id      text not null,
    reading_id  text not null,
    primary key (job_id, reading_id),
    foreign key (job_id, reading_id) references reading (job_id, id)
) strict;
