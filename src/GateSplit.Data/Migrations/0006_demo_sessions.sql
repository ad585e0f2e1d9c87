-- How far the steps are that make a demo session, so that a server that is stopped meanwhile goes on with them.
create table demo_sessions (
    name       text primary key,
    session_id bigint not null references sessions on delete cascade,
    steps_done integer not null default 0,
    revision   integer not null default 1 -- where those steps left the session
);
