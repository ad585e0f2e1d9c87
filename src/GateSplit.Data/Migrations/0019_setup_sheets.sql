-- What was ticked off on setup sheets, by what a step says, and the addresses under which a sheet is open to a phone beside the gear.
create table setup_ticks (
    session_id bigint not null references sessions on delete cascade,
    step       text not null,
    ticked_at  timestamptz not null default now(),
    primary key (session_id, step)
);
create table setup_links (
    session_id bigint primary key references sessions on delete cascade,
    token      text not null unique,
    made_at    timestamptz not null default now()
);
