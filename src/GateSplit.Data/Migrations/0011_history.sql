-- A state of a split may have a name; and an edit may stand for several that were thinned out before it.
alter table split_revisions add column name text not null default '' check (length(name) <= 80);
alter table split_revisions add column steps integer not null default 1;
