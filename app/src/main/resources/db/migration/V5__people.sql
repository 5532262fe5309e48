-- Whom the user sets apart: key persons, and groups. A value is an address, or a domain for everybody there.

create table key_person (
    user_id bigint not null references app_user on delete cascade,
    value text not null,
    primary key (user_id, value)
);

create table people_group (
    id bigint generated always as identity primary key,
    user_id bigint not null references app_user on delete cascade,
    name text not null
);
create unique index people_group_by_name on people_group (user_id, lower(name));

create table people_group_member (
    group_id bigint not null references people_group on delete cascade,
    value text not null,
    primary key (group_id, value)
);
