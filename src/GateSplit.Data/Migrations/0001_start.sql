-- A session is a song and a split; the split is kept revision by revision.
create table sessions (
    id          bigint generated always as identity primary key,
    name        text not null check (length(name) between 1 and 120),
    song        bytea not null,
    revision    integer not null,
    created_at  timestamptz not null default now(),
    updated_at  timestamptz not null default now()
);

-- parent leads back for undo, redo leads forward again until another edit is made.
create table split_revisions (
    session_id  bigint not null references sessions on delete cascade,
    revision    integer not null,
    parent      integer,
    redo        integer,
    edit        text not null,
    document    jsonb not null,
    created_at  timestamptz not null default now(),
    primary key (session_id, revision)
);

-- One row for each file in the audio store, named by a hash of its bytes.
create table audio_files (
    hash          text primary key,
    bytes         bigint not null,
    channels      integer not null,
    sample_rate   integer not null,
    sample_format text not null,
    frames        bigint not null,
    overview_hash text not null,
    remarks       text[] not null default '{}',
    created_at    timestamptz not null default now()
);

-- Null levels are digital silence.
create table measurements (
    hash             text not null references audio_files on delete cascade,
    channel          integer not null,
    sample_peak_dbfs double precision,
    rms_dbfs         double precision,
    dc_offset        double precision not null,
    clipped_runs     bigint not null,
    silent           boolean not null,
    primary key (hash, channel)
);

create table takes (
    id          bigint generated always as identity primary key,
    session_id  bigint not null references sessions on delete cascade,
    number      integer not null,
    kind        text not null check (kind in ('print', 'bring-in')),
    revision    integer not null,
    note        text not null default '',
    created_at  timestamptz not null default now(),
    unique (session_id, number)
);

create table take_tracks (
    take_id   bigint not null references takes on delete cascade,
    position  integer not null,
    track_id  text not null,
    name      text not null,
    family    text,
    elements  text not null,
    source    text not null,
    hash      text not null references audio_files,
    primary key (take_id, position)
);
create index take_tracks_by_hash on take_tracks (hash);

create table jobs (
    id             bigint generated always as identity primary key,
    session_id     bigint not null references sessions on delete cascade,
    kind           text not null check (kind in ('print', 'bring-in')),
    state          text not null check (state in ('queued', 'running', 'done', 'stopped', 'failed', 'interrupted')),
    request        jsonb not null,
    share          double precision not null default 0,
    sentence       text not null default '',
    stop_requested boolean not null default false,
    take_id        bigint references takes on delete set null,
    created_at     timestamptz not null default now(),
    started_at     timestamptz,
    ended_at       timestamptz,
    heartbeat_at   timestamptz
);
create index jobs_by_session on jobs (session_id, id desc);
-- Two browsers that press print at once get one job.
create unique index jobs_one_at_a_time on jobs (session_id) where state in ('queued', 'running');
