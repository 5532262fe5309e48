-- The tickler, forwarding by rules, the user's time zone, and what is known of a rule from when it was made.

-- The day when a message comes back from the tickler; kept in the Inbox until it is filed, so that it is seen why it is back.
alter table message add column until_on date;
create index message_in_tickler on message (user_id, until_on) where until_on is not null;
alter table filing_record
    add column until_before date,
    add column until_after date,
    -- What a rule did besides changing the message: "forwarded to anna@wharf.example".
    add column besides text[] not null default '{}';

-- A folder of the user's of that name becomes the tickler.
update folder set use = 'TICKLER' where id in (
    select min(id) from folder where lower(path) = 'tickler' and use is null and deleted_at is null group by user_id);
insert into folder (user_id, path, use)
    select id, 'Tickler', 'TICKLER' from app_user u
    where not exists (select from folder f where f.user_id = u.id and f.use = 'TICKLER')
    on conflict (user_id, path) do update set use = 'TICKLER', deleted_at = null, deleted_in = null;

-- The message that one that is written passes on, as an attachment or in its text.
alter table outgoing
    add column forwards bigint references message on delete set null,
    add column forwards_attached boolean not null default false;

-- To whom a rule forwards, as it was typed.
alter table rule_effect add column recipients text;

-- Where the user's days begin and end: "Europe/Lisbon"; null for where the server stands.
alter table app_user add column zone text;

-- How much mail of the last year a rule would have taken when it was made, in 30 days; null where that was not asked.
alter table rule add column expected real;

-- With whom the user has to do, so that a few letters are enough: senders, and whom the user wrote to. Kept up behind the
-- mail that comes in, with what finds it by its words.
create table correspondent (
    user_id bigint not null references app_user on delete cascade,
    address text not null,
    name text not null,
    messages int not null,
    primary key (user_id, address)
);
insert into correspondent (user_id, address, name, messages)
    select m.user_id, h.sender_address, coalesce(max(nullif(h.sender_name, '')), ''), count(*)
    from message m join message_head h on h.message_id = m.id join folder f on f.id = m.folder_id
    where h.sender_address like '%_@_%' and coalesce(f.use, '') not in ('JUNK', 'TRASH', 'SENT', 'DRAFTS')
    group by 1, 2;
insert into correspondent (user_id, address, name, messages)
    select m.user_id, a.address, '', count(*)
    from message m join message_head h on h.message_id = m.id join folder f on f.id = m.folder_id
        cross join lateral unnest(h.addressed_to) as a (address)
    where a.address like '%_@_%' and f.use = 'SENT'
    group by 1, 2
    on conflict (user_id, address) do update set messages = correspondent.messages + excluded.messages;

-- Rules that an account's server carries out by itself, as a script; without a row it has none.
create table server_script (
    account_id bigint primary key references account on delete cascade,
    port int not null,
    encryption text not null,
    -- The script that was active there before, which comes back when this one is taken away.
    former text not null,
    -- What the server can do, what is there now, and the rules that are in it.
    extensions text[] not null default '{}',
    script text not null default '',
    rules bigint[] not null default '{}',
    at timestamptz,
    trouble text,
    -- When it is to be looked at next; moved on while a process does.
    next_at timestamptz not null default now()
);
