-- Handoffs that were made: what was sent, and how each of its bytes is made again.
create table handoffs (
    id         bigint generated always as identity primary key,
    session_id bigint not null references sessions on delete cascade,
    number     integer not null,
    made_at    timestamptz not null default now(),
    takes      text not null,   -- in words
    files      integer not null,
    bytes      bigint not null, -- of the zip
    audio      text[] not null, -- the stored files it is made from,
    tracks     text[] not null, -- and for each of them the file that needs it
    document   text not null,
    unique (session_id, number)
);
alter table jobs drop constraint jobs_kind_check;
alter table jobs add constraint jobs_kind_check check (kind in ('print', 'bring-in', 'proof', 'roll-call', 'handoff'));
alter table jobs drop column beside;
alter table jobs add column beside boolean not null generated always as (kind in ('proof', 'roll-call', 'handoff')) stored;
