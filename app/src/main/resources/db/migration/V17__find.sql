-- Words are written down by the application's own tokeniser, and found by their beginnings and parts too. What was written
-- down before is made anew, behind everything else, the newest first.
create extension if not exists pg_trgm;

truncate message_search, correspondent;

-- What is to be written down; goes with its message by statement, as its head and its text do.
create table to_index (
    message_id bigint primary key,
    account_id bigint not null
);
create or replace function take_out_content() returns trigger language plpgsql as $$
begin
    delete from message_head h using gone where h.message_id = gone.id;
    delete from message_text t using gone where t.message_id = gone.id;
    delete from message_source s using gone where s.message_id = gone.id;
    delete from to_index i using gone where i.message_id = gone.id;
    return null;
end $$;
create index to_index_newest on to_index (account_id, message_id desc);
insert into to_index (message_id, account_id) select message_id, account_id from message_head;

-- Every word of a user's mail once.
create table vocabulary (
    user_id bigint not null references app_user on delete cascade,
    word text collate "C" not null,
    primary key (user_id, word)
);
create index vocabulary_parts on vocabulary using gin (word gin_trgm_ops);

-- What finds words of a user's mail that begin with a part, or have it inside: the shortest of them, if they are very many.
-- A mark stands before the words of one kind; weights say where they must stand.
create function words_with(owner bigint, part text, mark text, weights text) returns tsquery language sql stable as $$
    select string_agg('''' || mark || w.word || '''' || w.rest, ' | ')::tsquery
    from (
        select part as word, ':*' || weights as rest
        union all
        (select v.word, case when weights = '' then '' else ':' || weights end from vocabulary v
         where v.user_id = owner and v.word like '_%' || part || '%'
         order by length(v.word), v.word limit 400)
    ) w
$$;

-- Searches that are kept under a name.
create table saved_search (
    id bigint generated always as identity primary key,
    user_id bigint not null references app_user on delete cascade,
    name text not null,
    words text not null,
    -- What the words name, as it was called then: [{"kind": "FOLDER", "id": "12", "name": "Loans"}]
    places jsonb not null default '[]',
    position int not null,
    -- Shown only while something in it is unread.
    if_unread boolean not null default false
);
create unique index saved_search_name on saved_search (user_id, lower(name));
create trigger row_kept after insert or update or delete on saved_search for each row execute function keep_row();

-- What was searched for, the latest of each.
create table recent_search (
    user_id bigint not null references app_user on delete cascade,
    words text not null,
    at timestamptz not null,
    primary key (user_id, words)
);
