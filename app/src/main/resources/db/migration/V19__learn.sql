-- Where messages were filed to and taken from, and which labels they got or lost: until it is learnt.
create table to_learn (
    id bigint generated always as identity primary key,
    user_id bigint not null references app_user on delete cascade,
    message_id bigint not null,
    -- FOLDER or LABEL
    kind text not null,
    place_id bigint not null,
    -- Whether the message was put there, or taken away.
    there boolean not null
);
create index to_learn_of on to_learn (user_id, id);

-- What was learnt from them, so that it need not be learnt again after a restart.
create table learnt (
    user_id bigint primary key references app_user on delete cascade,
    -- The last of to_learn that is in it.
    last_lesson bigint not null,
    gzip bytea not null
);
