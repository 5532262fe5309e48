-- Several things that one key does. Places are known by their ids, without a constraint: one that is deleted makes the routine
-- tell so, and one that comes back is in it again.
create table routine (
    id bigint generated always as identity primary key,
    user_id bigint not null references app_user on delete cascade,
    position int not null,
    name text not null
);
create unique index routine_name on routine (user_id, lower(name));
create trigger row_kept after insert or update or delete on routine for each row execute function keep_row();

-- As the effects of rules, and how the place was called when it was written down.
create table routine_step (
    routine_id bigint not null references routine on delete cascade,
    position int not null,
    kind text not null,
    folder_id bigint,
    label_id bigint,
    category_id bigint,
    tray_id bigint,
    turned_on boolean not null default true,
    detail text,
    recipients text,
    place_name text not null default '',
    primary key (routine_id, position)
);
create trigger row_kept after insert or update or delete on routine_step for each row execute function keep_row();

-- Whether the user has been given those that one begins with.
alter table app_user add column has_routines boolean not null default false;
