-- Due dates and days of return with a time of day, and what the user was reminded of at such a time.

alter table message add column due_at time, add column until_at time;

alter table filing_record
    add column due_at_before time,
    add column due_at_after time,
    add column until_at_before time,
    add column until_at_after time;

create index message_due_hour on message (due_on) where due_at is not null and flagged;

-- One for each time that a message is due at: it is told of once, and shown until the user has seen to it.
create table reminder (
    id bigint generated always as identity primary key,
    user_id bigint not null references app_user on delete cascade,
    message_id bigint not null references message on delete cascade,
    due_on date not null,
    due_at time not null,
    at timestamptz not null default now(),
    closed boolean not null default false,
    mailed boolean not null default false,
    unique (message_id, due_on, due_at)
);

create index reminder_of_user on reminder (user_id) where not closed;
create index reminder_to_mail on reminder (id) where not mailed;

alter table notification add column due boolean not null default false;

-- Reminders by mail to oneself, at this account; null if they are not wanted.
alter table app_user add column reminders_at bigint references account on delete set null;
