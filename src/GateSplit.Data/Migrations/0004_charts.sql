-- Charts made or brought in by the user; those that ship are in the program.
create table charts (
    id          text primary key check (length(id) between 1 and 80),
    document    jsonb not null,
    updated_at  timestamptz not null default now()
);
