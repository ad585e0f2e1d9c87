-- A print is a row of passes, each a job of its own, named by the first of them; together they make one take.
alter table jobs add column print_id bigint;
alter table jobs add column pass     integer not null default 1;
alter table jobs add column tries    integer not null default 1;
alter table jobs add column levels   text not null default '';
create index jobs_by_print on jobs (print_id);

-- Passes of one print wait side by side; that nobody starts a second print meanwhile is seen to where jobs are made.
drop index jobs_one_at_a_time;

alter table takes add column print_id bigint unique;
alter table takes add column notes bytea;
alter table take_tracks add column pass integer not null default 1;
alter table take_tracks add column remark text not null default '';

-- Of each line the take that counts; the newest one where nobody has chosen.
create table line_choices (
    session_id bigint not null references sessions on delete cascade,
    track_id   text not null,
    take_id    bigint not null references takes on delete cascade,
    primary key (session_id, track_id)
);
