-- A session's song can be replaced, and undo brings the one before back: each revision names its song.
create table songs (
    id          bigint generated always as identity primary key,
    session_id  bigint not null references sessions on delete cascade,
    midi        bytea not null
);
insert into songs (session_id, midi) select id, song from sessions order by id;
alter table split_revisions add column song_id bigint references songs;
update split_revisions r set song_id = s.id from songs s where s.session_id = r.session_id;
alter table split_revisions alter column song_id set not null;
alter table sessions drop column song;
create index on songs (session_id);
create index on split_revisions (song_id);
