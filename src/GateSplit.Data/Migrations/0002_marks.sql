-- Things that are done once for a database.
create table marks (name text primary key);
