-- New mail that is not to be seen in the Inbox before the next look; that is over as soon as it is filed elsewhere.
alter table message add column held boolean not null default false;
create index message_held on message (user_id) where held;

-- When the user looks at mail, and of what he or she is notified; nobody has a row who never said anything of that.
create table quiet (
    user_id bigint primary key references app_user on delete cascade,
    -- After midnight, in the user's zone; none where mail is shown as it comes.
    minutes integer[] not null default '{}',
    looked_at timestamptz not null default now(),
    -- Of whose mail, besides what rules notify of.
    notices text not null default 'RULES',
    searches bigint[] not null default '{}',
    labels bigint[] not null default '{}'
);

-- Days of the week that the user puts things off to, under names of his or her own.
create table standing_day (
    id bigint generated always as identity primary key,
    user_id bigint not null references app_user on delete cascade,
    name text not null,
    -- From 1 for Monday on.
    weekday integer not null
);
create unique index standing_day_name on standing_day (user_id, lower(name));
create trigger row_kept after insert or update or delete on standing_day for each row execute function keep_row();

-- Who gets the day sheet by mail, when, and at which account.
create table day_mail (
    user_id bigint primary key references app_user on delete cascade,
    account_id bigint not null references account on delete cascade,
    minutes integer[] not null,
    sent_at timestamptz not null default now()
);
