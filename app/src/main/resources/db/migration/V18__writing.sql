-- Whom a message goes to without the others' knowing.
alter table outgoing add column blind text not null default '';

-- Files of a message that is being written. They stay when it is discarded, for a while, so that it can come back with them.
create table outgoing_file (
    id bigint generated always as identity primary key,
    outgoing_id bigint not null,
    name text not null,
    type text not null,
    content bytea not null,
    at timestamptz not null default now()
);
create index outgoing_file_of on outgoing_file (outgoing_id, id);
alter table outgoing_file alter column content set storage external;
