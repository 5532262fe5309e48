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
