-- The table of jobs is the queue; what another one kept beside it is of no use any more.
drop schema if exists hangfire cascade;
create index jobs_waiting on jobs (state, session_id) where state in ('queued', 'running');
