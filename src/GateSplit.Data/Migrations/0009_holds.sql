-- Files that a job has taken in and not kept yet: no row names them, and nobody removes them.
create table held_files (
    hash   text not null,
    job_id bigint not null references jobs on delete cascade,
    tries  integer not null, -- the try of the job: one that was thought to be gone may still let its own go
    primary key (hash, job_id, tries)
);
create index held_files_by_job on held_files (job_id);

-- Recordings that somebody is reading, as by a zip that downloads, until a time that the reader puts off while it reads.
create table readings (
    id         bigint generated always as identity primary key,
    session_id bigint not null references sessions on delete cascade,
    take_id    bigint references takes on delete cascade, -- null for the lines that count, of whichever take
    until      timestamptz not null
);
create index readings_by_session on readings (session_id);
create index readings_by_take on readings (take_id);

-- What a row names is found without a look at all of them.
create index audio_files_by_overview on audio_files (overview_hash);
create index jobs_by_take on jobs (take_id);
create index line_choices_by_take on line_choices (take_id);
create index demo_sessions_by_session on demo_sessions (session_id);
