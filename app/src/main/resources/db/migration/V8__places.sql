-- Places in an order of the user's own, trays, due dates, conversations, and lists as each person likes them.

alter table folder
    add column position int,
    add column hidden boolean not null default false,
    add column pinned boolean not null default false,
    -- Whether what lies in it is out of sight.
    add column folded boolean not null default false;
alter table label
    add column position int,
    add column hidden boolean not null default false;
alter table category
    -- What stands in the stamp instead of the rank: one or two characters.
    add column mark text,
    -- A message that gets the category is flagged, due so many days later.
    add column due_days int;

-- The divisions of the Inbox. kind says which mail comes in by itself; none for trays that are filled by senders or by hand.
create table tray (
    id bigint generated always as identity primary key,
    user_id bigint not null references app_user on delete cascade,
    position int not null,
    name text not null,
    kind text
);
create index tray_of_user on tray (user_id, position);
insert into tray (user_id, position, name, kind)
    select u.id, k.position, k.name, k.kind from app_user u
    cross join (values (1, 'People', 'PEOPLE'), (2, 'Ongoing', 'ONGOING'), (3, 'Notices', 'NOTICES'), (4, 'Records', 'RECORDS'))
        as k (position, name, kind);

-- Senders whose mail always goes into a tray: an address, or a domain.
create table tray_sender (
    user_id bigint not null references app_user on delete cascade,
    value text not null,
    tray_id bigint not null references tray on delete cascade,
    primary key (user_id, value)
);

alter table message
    add column due_on date,
    add column tray_id bigint references tray on delete set null,
    -- Messages that answer each other have the same; null until it has been worked out.
    add column conversation_id bigint;
create index message_of_conversation on message (conversation_id, received_at desc, id desc);
create index message_without_conversation on message (account_id, id) where conversation_id is null;
create index message_in_tray on message (folder_id, tray_id, received_at desc, id desc);
create index message_unread_in_tray on message (folder_id, account_id, tray_id) where unread;
create index message_due on message (user_id, due_on) where due_on is not null;
alter table message_head add column tray_reason text;

alter table filing_record
    add column due_before date,
    add column due_after date,
    add column tray_before bigint,
    add column tray_after bigint;

-- How many unread messages have a label; counted with every change, like folder_count.
create table label_count (
    label_id bigint not null references label on delete cascade,
    account_id bigint not null references account on delete cascade,
    unread int not null default 0,
    primary key (label_id, account_id)
);
insert into label_count (label_id, account_id, unread)
    select l.label_id, m.account_id, count(*) from message_label l join message m on m.id = l.message_id
    where m.unread group by 1, 2;

-- Which conversation a message belongs to that has, or answers one that has, this key: the hash of an id or of a subject
-- with a correspondent.
create table conversation_key (
    user_id bigint not null references app_user on delete cascade,
    key bigint not null,
    conversation_id bigint not null,
    primary key (user_id, key)
);
create index conversation_key_of on conversation_key (conversation_id);

-- How the list of a place is arranged; the place '' stands for all that have no arrangement of their own.
create table arrangement (
    user_id bigint not null references app_user on delete cascade,
    place text not null,
    grouping text not null,
    ordering text not null,
    conversations boolean not null,
    primary key (user_id, place)
);

-- How a person likes the desk; nobody has a row who never changed anything.
create table habits (
    user_id bigint primary key references app_user on delete cascade,
    pane text not null,
    density text not null,
    -- After how many seconds an open message counts as read; null for never by itself.
    read_after int,
    opens text not null,
    unread_only boolean not null,
    hidden_too boolean not null,
    trays boolean not null
);

-- Keys that somebody has chosen in the place of the usual ones.
create table own_key (
    user_id bigint not null references app_user on delete cascade,
    usual text not null,
    chosen text not null,
    primary key (user_id, usual),
    unique (user_id, chosen)
);

-- Rules put into trays and flag with a due date: detail says which, as words.
alter table rule_effect
    add column tray_id bigint references tray on delete cascade,
    add column detail text;
