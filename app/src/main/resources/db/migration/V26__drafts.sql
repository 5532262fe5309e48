-- Which window has written a draft last, and how often it was written: another one that does not know that is told.
alter table outgoing
    add column version integer not null default 0,
    add column written_by text not null default '';

-- A picture that stands in the text is called by this there; null for a file beside it.
alter table outgoing_file add column content_id text;

-- How large a message the server takes that an account sends with, in bytes, as it said last.
alter table account add column sends_up_to bigint;

-- Drafts as they lie in the folder for drafts of their account's server. One whose draft is sent or gone goes from there.
create table draft_copy (
    id bigint generated always as identity primary key,
    account_id bigint not null references account on delete cascade,
    outgoing_id bigint not null,
    -- What of the draft is in it; empty for one that another program has left, and that is written on here.
    edition text not null,
    folder text not null,
    identity text not null,
    -- Null until it is certain that it lies there.
    size integer,
    at timestamptz not null default now()
);
create index draft_copy_of on draft_copy (outgoing_id);
create index draft_copy_on on draft_copy (account_id);

-- What there is to write of each draft: a text is written anew, files come and go.
create view draft_edition as
    select o.id as outgoing_id, o.version || '/' || count(f.id) || '/' || coalesce(max(f.id), 0) as edition
    from outgoing o left join outgoing_file f on f.outgoing_id = o.id
    where o.state in ('DRAFT', 'REFUSED') and o.touched
    group by o.id;

-- Texts that are written often. A gap in braces is filled as the text is put in.
create table saved_text (
    id bigint generated always as identity primary key,
    user_id bigint not null references app_user on delete cascade,
    name text not null,
    body text not null
);
create unique index saved_text_name on saved_text (user_id, lower(name));
create trigger row_kept after insert or update or delete on saved_text for each row execute function keep_row();

-- What lies in the tickler until somebody writes, and until that day at the latest.
create table waits_for (
    message_id bigint primary key references message on delete cascade,
    user_id bigint not null references app_user on delete cascade,
    address text not null,
    -- It is waited for only as long as the message is to come back on this day.
    until_on date not null,
    -- What came before it was put off is no new message, even if it is fetched later.
    after_message bigint not null,
    at timestamptz not null default now()
);
create index waits_for_of_user on waits_for (user_id);

-- How conversations are read, and where an answer lies besides Sent.
alter table habits
    add column oldest_first boolean not null default false,
    add column copy_beside boolean not null default false;

-- Messages that an act has put on their way: as long as they have not left, undo takes them back.
create table sent_in_act (
    outgoing_id bigint primary key,
    batch_id bigint not null references batch on delete cascade,
    recipients text not null
);
create index sent_in_act_of_batch on sent_in_act (batch_id);
