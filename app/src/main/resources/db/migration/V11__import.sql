-- Importing writes rows of several tables for each message, and a foreign key that is checked row by row costs more than
-- the row. Where a row is written only beside the one that it refers to, or that is said by another key already, there is
-- none any more; what goes with the other row is taken out by statement.

-- A message goes with its account, and its account with the user.
alter table message drop constraint message_user_id_fkey;
-- A copy goes with its message.
alter table server_copy drop constraint server_copy_account_id_fkey;

alter table message_head drop constraint message_head_message_id_fkey;
alter table message_text drop constraint message_text_message_id_fkey;
alter table message_source drop constraint message_source_message_id_fkey;

create function take_out_content() returns trigger language plpgsql as $$
begin
    delete from message_head h using gone where h.message_id = gone.id;
    delete from message_text t using gone where t.message_id = gone.id;
    delete from message_source s using gone where s.message_id = gone.id;
    return null;
end $$;
create trigger message_taken_out after delete on message
    referencing old table as gone for each statement execute function take_out_content();

alter table conversation_key drop constraint conversation_key_user_id_fkey;

create function take_out_conversation_keys() returns trigger language plpgsql as $$
begin
    delete from conversation_key k using gone where k.user_id = gone.id;
    return null;
end $$;
create trigger user_taken_out after delete on app_user
    referencing old table as gone for each statement execute function take_out_conversation_keys();

alter table message_text alter column body set compression lz4;

-- One index for both: all of an account's messages, and those of them in a folder.
drop index message_in_folder_of_account;
drop index message_of_account;
create index message_of_account on message (account_id, folder_id, received_at desc, id desc);
