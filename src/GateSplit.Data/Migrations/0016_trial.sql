-- How many mends at the end of a take's list are on trial: heard and proved, and not handed off.
alter table take_mends add column trial integer not null default 0 check (trial between 0 and jsonb_array_length(mends));

-- What was said of the take before the mends on trial; null while there are none, or where nothing was known then.
alter table proofs add column untried jsonb;
