-- What this program sends to its own user arrives there; no copy of it goes into Sent.
alter table outgoing add column to_self boolean not null default false;
