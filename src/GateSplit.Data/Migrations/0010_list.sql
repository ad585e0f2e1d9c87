-- What the list of sessions shows of a revision, and the build of the checks that said so: others may find other things.
alter table split_revisions add column sources text;
alter table split_revisions add column tracks integer;
alter table split_revisions add column to_mend integer;
alter table split_revisions add column looked_by text;
create index sessions_by_change on sessions (updated_at desc, id desc);
