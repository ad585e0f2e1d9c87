-- Splits that are kept to be used again, each with its versions; a deleted one can be taken back.
create table templates (
    id         bigint generated always as identity primary key,
    name       text not null,
    deleted_at timestamptz
);
create table template_versions (
    template_id bigint not null references templates on delete cascade,
    number      integer not null,
    kind        text not null,
    gist        text not null,  -- what it keeps, in words
    document    text not null,  -- as it is exported
    made_at     timestamptz not null default now(),
    primary key (template_id, number)
);
