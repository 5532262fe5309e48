-- What the user's own filter leaves in a place's list: the names of filters, of which one must hold; empty for the usual ones.
alter table arrangement add column own_filter text not null default '';
