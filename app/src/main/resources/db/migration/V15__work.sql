-- An act on very many messages that is to go no further, by whichever process does it.
alter table unfinished_act add column stop_wanted boolean not null default false;

-- By which version of the reader all mail of an account has been read; while that is an old one, how far it has been read again.
alter table account add column reader smallint not null default 1;
alter table account add column read_up_to bigint not null default 0;
