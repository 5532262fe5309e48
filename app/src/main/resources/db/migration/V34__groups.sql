-- For lists that are grouped by category, in which most messages have none.
create index message_in_category on message (folder_id, category_id, received_at desc, id desc) where category_id is not null;
