-- Where a file clips, and how many samples are at full scale beside that. Of a file that was measured before, only whether there are
-- any is known: by its peak (32767/32768 is -0.00026508 dBFS, the next lower sample of 24 bits -0.00026611). Null is not counted.
alter table measurements add column full_scale bigint;
update measurements set full_scale = 0 where sample_peak_dbfs is null or sample_peak_dbfs < -0.0002655;

create table clips (
    hash        text not null,
    channel     integer not null,
    start_frame bigint not null,
    length      bigint not null check (length >= 3),
    primary key (hash, channel, start_frame),
    foreign key (hash, channel) references measurements (hash, channel) on delete cascade
);
