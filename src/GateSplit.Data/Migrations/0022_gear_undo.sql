-- What files are usually called, and how the gear was before each of the last changes, so that they can be taken back.
alter table gear add column pattern text not null default '{nn} {element}';

create table gear_undo (
    revision integer primary key,   -- the revision of the gear that it was
    format   integer not null,
    document jsonb   not null,
    pattern  text    not null,
    change   text    not null       -- what was done to it
);
