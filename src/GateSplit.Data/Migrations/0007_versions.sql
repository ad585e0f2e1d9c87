-- Documents say which version of the format they were written in; those that were there are of the first.
alter table split_revisions add column format integer not null default 1;
alter table split_revisions alter column format drop default;
alter table charts add column format integer not null default 1;
alter table charts alter column format drop default;

-- Charts are swapped only if nobody has changed them meanwhile, as splits are.
alter table charts add column revision integer not null default 1;
