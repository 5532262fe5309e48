-- The day on which a message's flag was ticked off: what was to be done about it is done.
alter table message add column done_on date;
alter table filing_record add column done_before date, add column done_after date;
create index message_done on message (user_id, done_on) where done_on is not null;
