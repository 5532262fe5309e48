-- What the user writes: kept while it is written, and until servers have taken it and a copy lies in Sent.
create table outgoing (
    id bigint generated always as identity primary key,
    user_id bigint not null references app_user on delete cascade,
    account_id bigint not null references account on delete cascade,
    answers bigint references message on delete set null,
    sender text not null,
    recipients text not null,
    copies text not null,
    subject text not null,
    body text not null,
    in_reply_to text,
    refs text[] not null default '{}',
    state text not null default 'DRAFT',
    message_id text,
    source bytea,
    -- When it is to be tried next; moved on while a process tries, so that no other one does.
    due_at timestamptz,
    -- Whether a process is trying: then it cannot be taken back.
    claimed boolean not null default false,
    tries int not null default 0,
    trouble text,
    changed_at timestamptz not null default now()
);
create index outgoing_of_user on outgoing (user_id, id);
create index outgoing_due on outgoing (due_at) where state in ('WAITING', 'SENT');
