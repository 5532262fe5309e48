-- What is written with formatting: the same as the text of its row; none where plain text alone is wanted.
alter table outgoing
    add column html text,
    -- Whether anything was typed: an answer that was begun and left as it was is not kept.
    add column touched boolean not null default false,
    -- Messages here that go along with it.
    add column passes_on bigint[] not null default '{}';
update outgoing set touched = true;

-- Whose pictures are fetched from outside.
create table pictures_from (
    user_id bigint not null references app_user on delete cascade,
    address text not null,
    primary key (user_id, address)
);

-- Whether the user has answered it or passed it on; when, if that was done here.
alter table message
    add column answered boolean not null default false,
    add column answered_at timestamptz,
    add column forwarded boolean not null default false,
    add column forwarded_at timestamptz;

-- What goes below messages from an alias; empty for the signature of its account.
alter table alias add column signature text not null default '';

-- Who is written to in plain text.
create table plain_correspondent (
    user_id bigint not null references app_user on delete cascade,
    address text not null,
    primary key (user_id, address)
);
