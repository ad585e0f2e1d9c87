-- Which process runs a job, so that the jobs of one that was killed are known at once.
alter table jobs add column worker text;
