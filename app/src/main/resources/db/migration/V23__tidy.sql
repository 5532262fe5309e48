-- On which day of the week (1: Monday) the day sheet offers to tidy up the Inbox, null for none; and after how many days what was read may go.
alter table app_user
    add column tidy_day smallint check (tidy_day between 1 and 7),
    add column tidy_after smallint not null default 14 check (tidy_after between 0 and 3650);
