-- Accounts with the servers that people really have.

alter table account
    add column protocol text not null default 'IMAP',
    add column proof text not null default 'PASSWORD',
    add column pin text,
    add column plain_agreed boolean not null default false,
    add column out_host text,
    add column out_port int,
    add column out_encryption text,
    add column out_login text,
    add column out_pin text,
    add column out_plain_agreed boolean not null default false,
    add column signature text not null default '',
    add column import_since date,
    add column keep_on_server boolean not null default true,
    add column state_since timestamptz not null default now(),
    add column next_try_at timestamptz,
    -- Grows when something changed that a worker must begin anew with.
    add column version int not null default 0,
    -- The process that serves the account, and until when it may without saying so again.
    add column lease_owner text,
    add column lease_until timestamptz;

-- The processes that share the accounts.
create table process (
    name text primary key,
    seen_at timestamptz not null
);

-- What happened between Schublade and the account's server, to help someone help.
create table account_event (
    id bigint generated always as identity primary key,
    account_id bigint not null references account on delete cascade,
    at timestamptz not null default now(),
    said text not null
);
create index account_event_of_account on account_event (account_id, id desc);

-- An alias is an address, or a pattern with * for a catch-all.
alter table alias
    add column note text not null default '',
    add column added_at timestamptz not null default now(),
    add column retired_at timestamptz,
    add column retired_to bigint references folder on delete set null;

-- Proposed addresses that the user said are none of theirs.
create table alias_declined (
    account_id bigint not null references account on delete cascade,
    address text not null,
    primary key (account_id, address)
);

-- How a folder stood when Schublade last agreed with it completely.
alter table mailbox
    add column path text not null default '',
    -- What the user called the folder here, until the server has been told.
    add column wanted_path text,
    add column read_only boolean not null default false,
    add column agreed_next bigint,
    add column agreed_messages int,
    add column agreed_mod_seq bigint;

-- A folder that the user deleted: out of sight, deleted on its servers once it is empty there, back when it is needed.
alter table folder add column deleted_at timestamptz;

-- Every message has its row here; it is a stray, in no folder that is known, while mailbox_id is null.
alter table server_copy
    add column account_id bigint references account on delete cascade,
    alter column mailbox_id drop not null,
    alter column uid drop not null,
    drop constraint server_copy_mailbox_id_fkey;
update server_copy c set account_id = m.account_id from message m where m.id = c.message_id;
insert into server_copy (message_id, account_id)
    select m.id, m.account_id from message m where not exists (select from server_copy c where c.message_id = m.id);
alter table server_copy
    alter column account_id set not null,
    add foreign key (mailbox_id) references mailbox on delete set null;
create index server_copy_stray on server_copy (account_id) where mailbox_id is null;

-- Whether a copy for the order may have been made already.
alter table server_order add column begun boolean not null default false;
-- Addresses that a message was sent to and that nobody has claimed as an alias, if they look like one.
alter table message_head add column unclaimed text[] not null default '{}';
create index message_head_unclaimed on message_head using gin (unclaimed) where unclaimed <> '{}';
create index message_head_by_alias on message_head (account_id, alias) where alias is not null;

-- Messages that were fetched by POP3, by the unique id that the server gives them.
create table pop_message (
    account_id bigint not null references account on delete cascade,
    uidl text not null,
    primary key (account_id, uidl)
);
