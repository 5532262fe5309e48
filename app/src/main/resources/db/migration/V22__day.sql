-- When the user last said that what the day sheet tells has been seen.
alter table app_user add column day_seen_at timestamptz;
