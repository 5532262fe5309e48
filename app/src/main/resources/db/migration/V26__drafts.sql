-- Which window has written a draft last, and how often it was written: another one that does not know that is told.
alter table outgoing
    add column version integer not null default 0,
    add column written_by text not null default '';

-- A picture that stands in the text is called by this there; null for a file beside it.
alter table outgoing_file add column content_id text;

-- How large a message the server takes that an account sends with, in bytes, as it said last.
alter table account add column sends_up_to bigint;
