-- What the user asked somebody and waits for an answer to. Whether it was answered is not written down here: it shows in the mail.
create table awaited (
    message_id bigint primary key references message on delete cascade,
    user_id bigint not null references app_user on delete cascade,
    -- The sentence that asks; empty if it was said by hand that an answer is awaited.
    asked text not null,
    -- From when on it is told that nobody answered, and why from then on.
    listed_from timestamptz not null,
    why text not null,
    -- The subject without what comes and goes, in lower case; empty if it says too little.
    stem text not null,
    closed_at timestamptz
);
create index awaited_of on awaited (user_id, listed_from) where closed_at is null;
create trigger row_kept after insert or update or delete on awaited for each row execute function keep_row();

-- Messages on their way of which it was ticked that an answer is awaited.
create table awaited_ahead (
    user_id bigint not null references app_user on delete cascade,
    internet_id text not null,
    until timestamptz not null,
    primary key (user_id, internet_id)
);

-- What was sent up to this message has been looked through for questions.
alter table app_user add column asked_up_to bigint not null default 0;
