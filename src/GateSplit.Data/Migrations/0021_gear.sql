-- What the person at this program owns: one document.
create table gear (
    one      boolean primary key default true check (one),
    revision integer not null,
    format   integer not null,  -- the version of splits that the document is written in
    document jsonb not null
);
