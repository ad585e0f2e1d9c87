-- What a take really holds, as it was looked at last.
create table proofs (
    take_id bigint primary key references takes on delete cascade,
    made_at timestamptz not null default now(),
    body    jsonb not null,
    mends   jsonb not null, -- those it was made with
    before  jsonb,          -- the proof of the printed files, before any mend
    to_mend text[] not null -- the keys of what it finds that should be mended
);

-- What of it is meant so.
create table accepted_proofs (
    take_id bigint not null references takes on delete cascade,
    finding text not null,
    reason  text not null,
    primary key (take_id, finding)
);

-- Corrections of a take, in order; its files stay as they are. What was undone waits to be done again.
create table take_mends (
    take_id bigint primary key references takes on delete cascade,
    mends   jsonb not null default '[]',
    undone  jsonb not null default '[]'
);
create index jobs_by_proof on jobs (((request->>'takeId')::bigint)) where kind = 'proof';
alter table jobs drop constraint jobs_kind_check;
alter table jobs add constraint jobs_kind_check check (kind in ('print', 'bring-in', 'proof'));
