-- What must hold when things go wrong.

-- POP3: the message that a unique id stands for, with the size that the server told, so that nothing is removed there that
-- is not whole here, and a message whose id has changed is recognised. Without a message: from before this, not wanted, or
-- deleted here since.
alter table pop_message
    add column message_id bigint references message on delete set null,
    add column size int,
    add column wanted boolean not null default true,
    -- When the server was told to remove it; it may not have done so.
    add column removed_at timestamptz;
create index pop_message_of_message on pop_message (message_id) where message_id is not null;
-- The number of the next message of a mailbox whose server gives none that lasts; null where there is such a server.
alter table mailbox add column next_number bigint;

-- Messages that their server lists and does not give; name is the UID, or the unique id of POP3.
create table put_aside (
    mailbox_id bigint not null references mailbox on delete cascade,
    name text not null,
    reason text not null,
    tries int not null default 1,
    since timestamptz not null default now(),
    -- When it is asked for again; null while it is still tried at once.
    next_at timestamptz,
    primary key (mailbox_id, name)
);

-- Messages that were kept as they came, because they could not be read or stored as they were read; a later version of the
-- reader tries again.
create table kept_as_it_came (
    message_id bigint primary key references message on delete cascade,
    reason text not null,
    reader int not null
);

-- What places were called that are gone, to tell of them.
create table gone_place (
    user_id bigint not null,
    kind text not null,
    id bigint not null,
    name text not null,
    primary key (user_id, kind, id)
);
create function keep_name_of_place() returns trigger language plpgsql as $$
begin
    insert into gone_place (user_id, kind, id, name)
        select old.user_id, tg_argv[0], old.id, coalesce(to_jsonb(old) ->> 'path', to_jsonb(old) ->> 'name')
        where exists (select from app_user where id = old.user_id)
        on conflict do nothing;
    return null;
end $$;
create trigger folder_gone after delete on folder for each row execute function keep_name_of_place('FOLDER');
create trigger label_gone after delete on label for each row execute function keep_name_of_place('LABEL');
create trigger category_gone after delete on category for each row execute function keep_name_of_place('CATEGORY');
create trigger tray_gone after delete on tray for each row execute function keep_name_of_place('TRAY');

create or replace function take_out_conversation_keys() returns trigger language plpgsql as $$
begin
    delete from conversation_key k using gone where k.user_id = gone.id;
    delete from gone_place p using gone where p.user_id = gone.id;
    return null;
end $$;

-- The act that merged a folder into another one.
alter table folder add column merged_in bigint;

-- An act on very many messages is taken back in parts. While it is being taken back, no part more of it is done.
alter table batch add column undoing_at timestamptz;
-- It is done in parts too. Until the last is done it stands here, so that every process can say how far it came, and it can
-- be gone on with should its process end before.
create table unfinished_act (
    batch_id bigint primary key references batch on delete cascade,
    -- What was asked for; null of a run of rules, of which the rest is done by running them again.
    request jsonb,
    messages bigint[] not null,
    -- The first of them.
    done int not null default 0,
    seen_at timestamptz not null default now()
);

-- Since when an order waits.
alter table server_order add column at timestamptz not null default now();

-- Tries to log in that did not succeed, by login, by address of the network, and by known browser; swept after some hours.
drop table login_failure;
create table login_try (
    key text primary key,
    failures int not null,
    last_at timestamptz not null
);
create index login_try_by_time on login_try (last_at);
-- Browsers that somebody has logged in with: strangers who try passwords do not lock them out.
create table known_browser (
    token_hash text primary key,
    user_id bigint not null references app_user on delete cascade,
    last_at timestamptz not null default now()
);
create index known_browser_of_user on known_browser (user_id);
