-- Whose mail goes to the trash as it arrives: an address, or a domain for everybody there.
create table blocked (
    user_id bigint not null references app_user on delete cascade,
    value text not null,
    at timestamptz not null default now(),
    primary key (user_id, value)
);
create trigger row_kept after insert or update or delete on blocked for each row execute function keep_row();

-- Conversations whose further messages are read and archived as they arrive.
create table muted (
    user_id bigint not null references app_user on delete cascade,
    conversation_id bigint not null,
    at timestamptz not null default now(),
    primary key (user_id, conversation_id)
);
create trigger row_kept after insert or update or delete on muted for each row execute function keep_row();

-- Mailing lists that the user asked to be taken off, by their List-Id, else by their sender's address.
create table left_list (
    user_id bigint not null references app_user on delete cascade,
    list text not null,
    at timestamptz not null default now(),
    -- How that was asked for, and what came of it: a sentence.
    told text not null,
    primary key (user_id, list)
);

create index message_head_by_list on message_head (list_id) where list_id is not null;
