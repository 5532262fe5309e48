-- Flags of the user's own, and the hour of a standing day.

-- A message that is flagged can be flagged as one of them.
create table flag (
    id bigint generated always as identity primary key,
    user_id bigint not null references app_user on delete cascade,
    position int not null,
    name text not null,
    tone text not null
);
create unique index flag_name on flag (user_id, lower(name));
create trigger row_kept after insert or update or delete on flag for each row execute function keep_row();
create trigger flag_gone after delete on flag for each row execute function keep_name_of_place('FLAG');

alter table message add column flag_id bigint references flag on delete set null;
create index message_flag on message (flag_id) where flag_id is not null;

alter table filing_record add column flag_before bigint, add column flag_after bigint;

alter table rule_effect add column flag_id bigint references flag on delete cascade;
alter table routine_step add column flag_id bigint;

-- Null for the day as a whole.
alter table standing_day add column at time;
