-- What an act of a user changed besides messages, row by row, so that it can be taken back. Rows are kept by triggers, while
-- the setting schublade.act says for which act.
create table kept_row (
    id bigint generated always as identity primary key,
    batch_id bigint not null references batch on delete cascade,
    -- The table.
    name text not null,
    -- Null of a row that the act made.
    before jsonb,
    -- Null of a row that the act took away.
    after jsonb
);
create index kept_row_of_batch on kept_row (batch_id, id);

-- Times are written the same in every session, so that rows can be compared.
create function as_kept(one anyelement) returns jsonb language sql stable set timezone to 'UTC' as 'select to_jsonb(one)';

create function keep_row() returns trigger language plpgsql as $$
declare
    act text := current_setting('schublade.act', true);
begin
    if coalesce(act, '') <> '' and (tg_op <> 'UPDATE' or old is distinct from new) then
        insert into kept_row (batch_id, name, before, after) values (act::bigint, tg_table_name,
            case when tg_op <> 'INSERT' then as_kept(old) end, case when tg_op <> 'DELETE' then as_kept(new) end);
    end if;
    return null;
end $$;

create trigger row_kept after insert or update or delete on folder for each row execute function keep_row();
create trigger row_kept after insert or update or delete on label for each row execute function keep_row();
create trigger row_kept after insert or update or delete on category for each row execute function keep_row();
create trigger row_kept after insert or update or delete on tray for each row execute function keep_row();
create trigger row_kept after insert or update or delete on tray_sender for each row execute function keep_row();
create trigger row_kept after insert or update or delete on rule for each row execute function keep_row();
create trigger row_kept after insert or update or delete on rule_effect for each row execute function keep_row();
create trigger row_kept after insert or update or delete on rule_version for each row execute function keep_row();
create trigger row_kept after insert or update or delete on rule_answer for each row execute function keep_row();
create trigger row_kept after insert or update or delete on key_person for each row execute function keep_row();
create trigger row_kept after insert or update or delete on people_group for each row execute function keep_row();
create trigger row_kept after insert or update or delete on people_group_member for each row execute function keep_row();
create trigger row_kept after insert or update or delete on alias for each row execute function keep_row();
create trigger row_kept after insert or update or delete on alias_declined for each row execute function keep_row();
create trigger row_kept after insert or update or delete on arrangement for each row execute function keep_row();
create trigger row_kept after delete on outgoing for each row execute function keep_row();

-- Folders that earlier acts deleted or merged come back in the same way.
insert into kept_row (batch_id, name, before, after)
    select b.id, 'folder', as_kept(f) || '{"deleted_at": null, "deleted_in": null}', as_kept(f)
    from folder f join batch b on b.id = coalesce(f.deleted_in, f.merged_in) and b.user_id = f.user_id
    where f.deleted_at is not null and b.undone_at is null;
alter table folder drop column merged_in;

-- Why a rule was switched off that nobody switched off: what it names is gone.
alter table rule add column paused text;
