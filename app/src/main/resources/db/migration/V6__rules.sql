-- Since when a rule is there, so that one that never acts can be told from a new one. Of older rules: when they first acted.
alter table rule add column created_at timestamptz;
update rule r set created_at = (
    select min(b.at) from filing_record f join batch b on b.id = f.batch_id where f.rule_id = r.id);
update rule set created_at = now() where created_at is null;
alter table rule alter column created_at set default now(), alter column created_at set not null;

-- How a rule was before it was changed.
create table rule_version (
    id bigint generated always as identity primary key,
    rule_id bigint not null references rule on delete cascade,
    until timestamptz not null default now(),
    name text not null,
    last boolean not null,
    conditions jsonb not null,
    effects jsonb not null
);
create index rule_version_of_rule on rule_version (rule_id, id desc);
