-- Learners, their attempts at boards as records that are replayed, and the exercises that they answered.

create table learner (
    name        text primary key,
    created_at  text not null
) strict;

create table attempt (
    id        integer primary key,
    learner   text not null references learner (name),
    record    text not null,
    standard  text not null,
    level     integer not null,
    number    integer not null,
    total     real not null,
    passed    integer not null,
    tests     integer not null,
    ended_at  text not null
) strict;

create table exercise_answer (
    id        integer primary key,
    learner   text not null references learner (name),
    standard  text not null,
    kind      text not null,
    number    integer not null,
    chosen    integer not null,
    is_right  integer not null,
    answered_at  text not null
) strict;
