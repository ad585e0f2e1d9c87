-- A job that brings a whole session in has none before it is done.
alter table jobs alter column session_id drop not null;
alter table jobs drop constraint jobs_kind_check;
alter table jobs add constraint jobs_kind_check check (kind in ('print', 'bring-in', 'proof', 'roll-call', 'handoff', 'session-in'));
alter table jobs add constraint jobs_session_check check (session_id is not null or kind = 'session-in');
alter table jobs drop column beside;
alter table jobs add column beside boolean not null generated always as (kind in ('proof', 'roll-call', 'handoff', 'session-in')) stored;
