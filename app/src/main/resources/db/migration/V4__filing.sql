-- What rules ask of messages beyond who wrote them and what about.

-- Conditions form a tree, so they are one document.
alter table rule add column conditions jsonb not null default '{"when": [], "unless": []}';
update rule r set conditions = jsonb_build_object('when', part.whens, 'unless', part.unlesses)
from (
    select rule_id,
        coalesce(jsonb_agg(term order by position) filter (where not exception), '[]') as whens,
        coalesce(jsonb_agg(term order by position) filter (where exception), '[]') as unlesses
    from (
        select rule_id, position, exception,
            jsonb_build_object('kind', kind, 'match', case kind when 'SUBJECT' then 'WORDS' end, 'negated', false,
                'values', to_jsonb(vals), 'parts', '[]'::jsonb) as term
        from rule_condition) terms
    group by rule_id) part
where part.rule_id = r.id;
alter table rule alter column conditions drop default;
drop table rule_condition;

-- Whether an effect sets something or takes it off.
alter table rule_effect add column turned_on boolean not null default true;

-- What a message tells the rules about itself; nulls in rows from before this until they are read again.
alter table message_head
    add column reply_to text[],
    add column addressed_to text[],
    add column traits text[],
    add column attached jsonb;
