-- Copies, columns, colours, several categories, deleted folders; and what rules do besides filing.

-- other_id: of an order to copy or to fetch, the copy; of an order to bring a copy to another account, the original, which
-- goes to the trash, as a part of the act batch_id, when the copy is certain.
alter table server_order
    add column other_id bigint references message on delete set null,
    add column batch_id bigint references batch on delete set null;
create index server_order_of_other on server_order (other_id) where other_id is not null;
create index server_order_of_batch on server_order (batch_id) where batch_id is not null;

-- The columns of a list and their widths, "SENDER:150,SUBJECT:200"; empty for rows of two lines.
alter table arrangement add column columns text not null default '';

-- A label's colour that is none of the palette's: "#2d6a4f".
alter table label add column own_colour text;

-- The act that deleted a folder, and with it all that lay in it; 0 if there was no message. Null for one that was merged.
alter table folder add column deleted_in bigint;

-- Several categories at a message, where the user wants that: category_id is the one of the highest rank, these are the
-- others.
alter table message add column also_categories bigint[] not null default '{}';
create index message_with_several_categories on message (user_id) where also_categories <> '{}';
alter table filing_record
    add column also_before bigint[] not null default '{}',
    add column also_after bigint[] not null default '{}';
alter table habits add column several_categories boolean not null default false;

-- The heading that stands above a rule and those after it.
alter table rule add column heading text;

-- New mail that a rule wants to be told of.
create table notification (
    id bigint generated always as identity primary key,
    user_id bigint not null references app_user on delete cascade,
    message_id bigint not null references message on delete cascade,
    sound boolean not null,
    at timestamptz not null default now()
);
create index notification_of_user on notification (user_id, id);

-- Whom a rule has answered, and when for the last time.
create table rule_answer (
    rule_id bigint not null references rule on delete cascade,
    address text not null,
    at timestamptz not null,
    primary key (rule_id, address)
);
