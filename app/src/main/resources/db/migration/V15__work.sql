-- An act on very many messages that is to go no further, by whichever process does it.
alter table unfinished_act add column stop_wanted boolean not null default false;
