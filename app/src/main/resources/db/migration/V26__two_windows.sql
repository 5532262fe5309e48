-- Which window has written a draft last, and how often it was written: another one that does not know that is told.
alter table outgoing
    add column version integer not null default 0,
    add column written_by text not null default '';
