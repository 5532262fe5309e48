-- Everything belongs to a user. A message's row is narrow because it moves; what never changes lies in other tables.

create table app_user (
    id bigint generated always as identity primary key,
    login text not null unique,
    name text not null,
    password text not null,
    created_at timestamptz not null default now()
);

create table login_failure (
    login text primary key,
    failures int not null,
    last_at timestamptz not null
);

create table account (
    id bigint generated always as identity primary key,
    user_id bigint not null references app_user on delete cascade,
    position int not null,
    code text not null check (code ~ '^[A-Z0-9]{2}$'),
    name text not null,
    tone text not null,
    address text not null,
    added_at timestamptz not null default now(),
    host text not null,
    port int not null,
    encryption text not null,
    login text not null,
    secret bytea not null,
    state text not null default 'NEW',
    trouble text,
    imported int not null default 0,
    to_import int not null default 0,
    unique (user_id, code),
    unique (user_id, address)
);

create table alias (
    account_id bigint not null references account on delete cascade,
    address text not null,
    primary key (account_id, address)
);

create table folder (
    id bigint generated always as identity primary key,
    user_id bigint not null references app_user on delete cascade,
    path text not null,
    use text,
    unique (user_id, path),
    unique (user_id, use)
);

create table mailbox (
    id bigint generated always as identity primary key,
    account_id bigint not null references account on delete cascade,
    folder_id bigint not null references folder on delete cascade,
    server_name text not null,
    uid_validity bigint,
    -- Mail with a UID from here on arrived after the account was added: rules act on it.
    new_from_uid bigint not null default 1,
    keywords boolean not null default false,
    unique (account_id, server_name),
    unique (account_id, folder_id)
);

create table category (
    id bigint generated always as identity primary key,
    user_id bigint not null references app_user on delete cascade,
    rank int not null,
    name text not null,
    tone text not null,
    keyword text not null,
    unique (user_id, name)
);

create table label (
    id bigint generated always as identity primary key,
    user_id bigint not null references app_user on delete cascade,
    path text not null,
    tone text not null,
    keyword text not null,
    unique (user_id, path)
);

create table message (
    id bigint generated always as identity primary key,
    user_id bigint not null references app_user on delete cascade,
    account_id bigint not null references account on delete cascade,
    folder_id bigint not null references folder,
    received_at timestamptz not null,
    unread boolean not null,
    flagged boolean not null,
    attachments smallint not null,
    category_id bigint references category on delete set null
) with (fillfactor = 80);

create index message_in_folder on message (folder_id, received_at desc, id desc);
create index message_in_folder_of_account on message (folder_id, account_id, received_at desc, id desc);
create index message_unread on message (folder_id, received_at desc, id desc) where unread;
create index message_flagged on message (user_id, received_at desc, id desc) where flagged;
create index message_of_user on message (user_id, received_at desc, id desc);
create index message_of_account on message (account_id);

create table message_label (
    message_id bigint not null references message on delete cascade,
    label_id bigint not null references label on delete cascade,
    primary key (message_id, label_id)
);
create index message_label_by_label on message_label (label_id, message_id);

create table message_head (
    message_id bigint primary key references message on delete cascade,
    account_id bigint not null,
    internet_id text not null,
    size int not null,
    sender_name text not null,
    sender_address text not null,
    recipients text not null,
    subject text not null,
    snippet text not null,
    sent_to text[] not null,
    alias text,
    list_id text,
    refs text[] not null,
    sent_at timestamptz
);
create index message_head_by_internet_id on message_head (account_id, internet_id);
create index message_head_by_sender on message_head (sender_address);

create table message_text (
    message_id bigint primary key references message on delete cascade,
    body text not null
);

create table message_source (
    message_id bigint primary key references message on delete cascade,
    whole boolean not null,
    gzip bytea not null
);
alter table message_source alter column gzip set storage external;

create table message_search (
    message_id bigint primary key references message on delete cascade,
    words tsvector not null
);
alter table message_search alter column words set statistics 1000;
create index message_search_words on message_search using gin (words);

-- Where a message lies on its server; none while the server's answer is not certain.
create table server_copy (
    message_id bigint primary key references message on delete cascade,
    mailbox_id bigint not null references mailbox on delete cascade,
    uid bigint not null,
    unique (mailbox_id, uid)
);

create table folder_count (
    folder_id bigint not null references folder on delete cascade,
    account_id bigint not null references account on delete cascade,
    total int not null default 0,
    unread int not null default 0,
    primary key (folder_id, account_id)
);

create table rule (
    id bigint generated always as identity primary key,
    user_id bigint not null references app_user on delete cascade,
    position int not null,
    name text not null,
    enabled boolean not null,
    last boolean not null
);

create table rule_condition (
    rule_id bigint not null references rule on delete cascade,
    position int not null,
    exception boolean not null,
    kind text not null,
    vals text[] not null,
    primary key (rule_id, position)
);

create table rule_effect (
    rule_id bigint not null references rule on delete cascade,
    position int not null,
    kind text not null,
    folder_id bigint references folder,
    label_id bigint references label on delete cascade,
    category_id bigint references category on delete cascade,
    primary key (rule_id, position)
);

-- One act of a user or of the rules: what one key takes back.
create table batch (
    id bigint generated always as identity primary key,
    user_id bigint not null references app_user on delete cascade,
    at timestamptz not null default now(),
    cause text not null,
    title text not null,
    undone_at timestamptz
);
create index batch_of_user on batch (user_id, id desc);

-- The filing record: what one act did to one message, and why.
create table filing_record (
    id bigint generated always as identity primary key,
    batch_id bigint not null references batch on delete cascade,
    message_id bigint not null references message on delete cascade,
    rule_id bigint references rule on delete set null,
    rule_name text,
    reasons text[] not null,
    folder_before bigint not null,
    folder_after bigint not null,
    unread_before boolean not null,
    unread_after boolean not null,
    flagged_before boolean not null,
    flagged_after boolean not null,
    category_before bigint,
    category_after bigint,
    labels_before bigint[] not null,
    labels_after bigint[] not null,
    undone_at timestamptz
);
create index filing_record_of_message on filing_record (message_id, id desc);
create index filing_record_of_batch on filing_record (batch_id);
create index filing_record_of_rule on filing_record (rule_id);

-- What mail servers must still be told, in order for each account.
create table server_order (
    id bigint generated always as identity primary key,
    account_id bigint not null references account on delete cascade,
    message_id bigint not null references message on delete cascade,
    kind text not null,
    folder_id bigint,
    flag text,
    flag_on boolean,
    trouble text
);
create index server_order_open on server_order (account_id, id) where trouble is null;
create index server_order_of_message on server_order (message_id);
