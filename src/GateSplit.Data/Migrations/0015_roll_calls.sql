-- What roll calls of a session's room have said: the newest of each pass.
create table roll_calls (
    session_id bigint not null references sessions on delete cascade,
    pass       integer not null,
    made_at    timestamptz not null default now(),
    by_hand    boolean not null,
    files      text[] not null, -- what was read, in the order of the channels; empty for one of the simulated rig
    body       jsonb not null,
    primary key (session_id, pass)
);
alter table jobs drop constraint jobs_kind_check;
alter table jobs add constraint jobs_kind_check check (kind in ('print', 'bring-in', 'proof', 'roll-call'));

-- Jobs that make no take keep nobody from printing.
alter table jobs add column beside boolean not null generated always as (kind in ('proof', 'roll-call')) stored;
