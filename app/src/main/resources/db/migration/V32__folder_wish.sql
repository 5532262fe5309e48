-- A folder that is to be made on an account's server before anything lies in it.
create table folder_wish (
    account_id bigint not null references account on delete cascade,
    folder_id bigint not null references folder on delete cascade,
    primary key (account_id, folder_id)
);
