
SET statement_timeout = 0;
SET lock_timeout = 0;
SET idle_in_transaction_session_timeout = 0;
SET client_encoding = 'UTF8';
SET standard_conforming_strings = on;
SET check_function_bodies = false;
SET xmloption = content;
SET client_min_messages = warning;
SET row_security = off;
CREATE EXTENSION IF NOT EXISTS pg_trgm WITH SCHEMA public;
COMMENT ON EXTENSION pg_trgm IS 'text similarity measurement and index searching based on trigrams';
CREATE FUNCTION public.as_kept(one anyelement) RETURNS jsonb
    LANGUAGE sql STABLE
    SET "TimeZone" TO 'UTC'
    AS $$select to_jsonb(one)$$;
CREATE FUNCTION public.keep_name_of_place() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
begin
    insert into gone_place (user_id, kind, id, name)
        select old.user_id, tg_argv[0], old.id, coalesce(to_jsonb(old) ->> 'path', to_jsonb(old) ->> 'name')
        where exists (select from app_user where id = old.user_id)
        on conflict do nothing;
    return null;
end $$;
CREATE FUNCTION public.keep_row() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
declare
    act text := current_setting('schublade.act', true);
begin
    if coalesce(act, '') <> '' and (tg_op <> 'UPDATE' or old is distinct from new) then
        insert into kept_row (batch_id, name, before, after) values (act::bigint, tg_table_name,
            case when tg_op <> 'INSERT' then as_kept(old) end, case when tg_op <> 'DELETE' then as_kept(new) end);
    end if;
    return null;
end $$;
CREATE FUNCTION public.take_out_content() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
begin
    delete from message_head h using gone where h.message_id = gone.id;
    delete from message_text t using gone where t.message_id = gone.id;
    delete from message_source s using gone where s.message_id = gone.id;
    delete from to_index i using gone where i.message_id = gone.id;
    return null;
end $$;
CREATE FUNCTION public.take_out_conversation_keys() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
begin
    delete from conversation_key k using gone where k.user_id = gone.id;
    delete from gone_place p using gone where p.user_id = gone.id;
    return null;
end $$;
CREATE FUNCTION public.words_with(owner bigint, part text, mark text, weights text) RETURNS tsquery
    LANGUAGE sql STABLE
    AS $$
    select string_agg('''' || mark || w.word || '''' || w.rest, ' | ')::tsquery
    from (
        select part as word, ':*' || weights as rest
        union all
        (select v.word, case when weights = '' then '' else ':' || weights end from vocabulary v
         where v.user_id = owner and v.word like '_%' || part || '%'
         order by length(v.word), v.word limit 400)
    ) w
$$;
SET default_tablespace = '';
SET default_table_access_method = heap;
CREATE TABLE public.account (
    id bigint NOT NULL,
    user_id bigint NOT NULL,
    "position" integer NOT NULL,
    code text NOT NULL,
    name text NOT NULL,
    tone text NOT NULL,
    address text NOT NULL,
    added_at timestamp with time zone DEFAULT now() NOT NULL,
    host text NOT NULL,
    port integer NOT NULL,
    encryption text NOT NULL,
    login text NOT NULL,
    secret bytea NOT NULL,
    state text DEFAULT 'NEW'::text NOT NULL,
    trouble text,
    imported integer DEFAULT 0 NOT NULL,
    to_import integer DEFAULT 0 NOT NULL,
    protocol text DEFAULT 'IMAP'::text NOT NULL,
    proof text DEFAULT 'PASSWORD'::text NOT NULL,
    pin text,
    plain_agreed boolean DEFAULT false NOT NULL,
    out_host text,
    out_port integer,
    out_encryption text,
    out_login text,
    out_pin text,
    out_plain_agreed boolean DEFAULT false NOT NULL,
    signature text DEFAULT ''::text NOT NULL,
    import_since date,
    keep_on_server boolean DEFAULT true NOT NULL,
    state_since timestamp with time zone DEFAULT now() NOT NULL,
    next_try_at timestamp with time zone,
    version integer DEFAULT 0 NOT NULL,
    lease_owner text,
    lease_until timestamp with time zone,
    reader smallint DEFAULT 1 NOT NULL,
    read_up_to bigint DEFAULT 0 NOT NULL,
    sends_up_to bigint,
    CONSTRAINT account_code_check CHECK ((code ~ '^[A-Z0-9]{2}$'::text))
);
CREATE TABLE public.account_event (
    id bigint NOT NULL,
    account_id bigint NOT NULL,
    at timestamp with time zone DEFAULT now() NOT NULL,
    said text NOT NULL
);
ALTER TABLE public.account_event ALTER COLUMN id ADD GENERATED ALWAYS AS IDENTITY (
    SEQUENCE NAME public.account_event_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
ALTER TABLE public.account ALTER COLUMN id ADD GENERATED ALWAYS AS IDENTITY (
    SEQUENCE NAME public.account_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.alias (
    account_id bigint NOT NULL,
    address text NOT NULL,
    note text DEFAULT ''::text NOT NULL,
    added_at timestamp with time zone DEFAULT now() NOT NULL,
    retired_at timestamp with time zone,
    retired_to bigint,
    signature text DEFAULT ''::text NOT NULL
);
CREATE TABLE public.alias_declined (
    account_id bigint NOT NULL,
    address text NOT NULL
);
CREATE TABLE public.app_user (
    id bigint NOT NULL,
    login text NOT NULL,
    name text NOT NULL,
    password text NOT NULL,
    created_at timestamp with time zone DEFAULT now() NOT NULL,
    zone text,
    has_routines boolean DEFAULT false NOT NULL,
    asked_up_to bigint DEFAULT 0 NOT NULL,
    day_seen_at timestamp with time zone,
    tidy_day smallint,
    tidy_after smallint DEFAULT 14 NOT NULL,
    reminders_at bigint,
    CONSTRAINT app_user_tidy_after_check CHECK (((tidy_after >= 0) AND (tidy_after <= 3650))),
    CONSTRAINT app_user_tidy_day_check CHECK (((tidy_day >= 1) AND (tidy_day <= 7)))
);
ALTER TABLE public.app_user ALTER COLUMN id ADD GENERATED ALWAYS AS IDENTITY (
    SEQUENCE NAME public.app_user_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.arrangement (
    user_id bigint NOT NULL,
    place text NOT NULL,
    "grouping" text NOT NULL,
    ordering text NOT NULL,
    conversations boolean NOT NULL,
    columns text DEFAULT ''::text NOT NULL,
    own_filter text DEFAULT ''::text NOT NULL
);
CREATE TABLE public.awaited (
    message_id bigint NOT NULL,
    user_id bigint NOT NULL,
    asked text NOT NULL,
    listed_from timestamp with time zone NOT NULL,
    why text NOT NULL,
    stem text NOT NULL,
    closed_at timestamp with time zone
);
CREATE TABLE public.awaited_ahead (
    user_id bigint NOT NULL,
    internet_id text NOT NULL,
    until timestamp with time zone NOT NULL
);
CREATE TABLE public.batch (
    id bigint NOT NULL,
    user_id bigint NOT NULL,
    at timestamp with time zone DEFAULT now() NOT NULL,
    cause text NOT NULL,
    title text NOT NULL,
    undone_at timestamp with time zone,
    undoing_at timestamp with time zone
);
ALTER TABLE public.batch ALTER COLUMN id ADD GENERATED ALWAYS AS IDENTITY (
    SEQUENCE NAME public.batch_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.blocked (
    user_id bigint NOT NULL,
    value text NOT NULL,
    at timestamp with time zone DEFAULT now() NOT NULL
);
CREATE TABLE public.category (
    id bigint NOT NULL,
    user_id bigint NOT NULL,
    rank integer NOT NULL,
    name text NOT NULL,
    tone text NOT NULL,
    keyword text NOT NULL,
    mark text,
    due_days integer
);
ALTER TABLE public.category ALTER COLUMN id ADD GENERATED ALWAYS AS IDENTITY (
    SEQUENCE NAME public.category_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.conversation_key (
    user_id bigint NOT NULL,
    key bigint NOT NULL,
    conversation_id bigint NOT NULL
);
CREATE TABLE public.correspondent (
    user_id bigint NOT NULL,
    address text NOT NULL,
    name text NOT NULL,
    messages integer NOT NULL
);
CREATE TABLE public.day_mail (
    user_id bigint NOT NULL,
    account_id bigint NOT NULL,
    minutes integer[] NOT NULL,
    sent_at timestamp with time zone DEFAULT now() NOT NULL
);
CREATE TABLE public.draft_copy (
    id bigint NOT NULL,
    account_id bigint NOT NULL,
    outgoing_id bigint NOT NULL,
    edition text NOT NULL,
    folder text NOT NULL,
    identity text NOT NULL,
    size integer,
    at timestamp with time zone DEFAULT now() NOT NULL
);
ALTER TABLE public.draft_copy ALTER COLUMN id ADD GENERATED ALWAYS AS IDENTITY (
    SEQUENCE NAME public.draft_copy_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE VIEW public.draft_edition AS
SELECT
    NULL::bigint AS outgoing_id,
    NULL::text AS edition;
CREATE TABLE public.filing_record (
    id bigint NOT NULL,
    batch_id bigint NOT NULL,
    message_id bigint NOT NULL,
    rule_id bigint,
    rule_name text,
    reasons text[] NOT NULL,
    folder_before bigint NOT NULL,
    folder_after bigint NOT NULL,
    unread_before boolean NOT NULL,
    unread_after boolean NOT NULL,
    flagged_before boolean NOT NULL,
    flagged_after boolean NOT NULL,
    category_before bigint,
    category_after bigint,
    labels_before bigint[] NOT NULL,
    labels_after bigint[] NOT NULL,
    undone_at timestamp with time zone,
    due_before date,
    due_after date,
    tray_before bigint,
    tray_after bigint,
    also_before bigint[] DEFAULT '{}'::bigint[] NOT NULL,
    also_after bigint[] DEFAULT '{}'::bigint[] NOT NULL,
    until_before date,
    until_after date,
    besides text[] DEFAULT '{}'::text[] NOT NULL,
    due_at_before time without time zone,
    due_at_after time without time zone,
    until_at_before time without time zone,
    until_at_after time without time zone,
    flag_before bigint,
    flag_after bigint,
    done_before date,
    done_after date
);
ALTER TABLE public.filing_record ALTER COLUMN id ADD GENERATED ALWAYS AS IDENTITY (
    SEQUENCE NAME public.filing_record_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.flag (
    id bigint NOT NULL,
    user_id bigint NOT NULL,
    "position" integer NOT NULL,
    name text NOT NULL,
    tone text NOT NULL
);
ALTER TABLE public.flag ALTER COLUMN id ADD GENERATED ALWAYS AS IDENTITY (
    SEQUENCE NAME public.flag_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.flyway_schema_history (
    installed_rank integer NOT NULL,
    version character varying(50),
    description character varying(200) NOT NULL,
    type character varying(20) NOT NULL,
    script character varying(1000) NOT NULL,
    checksum integer,
    installed_by character varying(100) NOT NULL,
    installed_on timestamp without time zone DEFAULT now() NOT NULL,
    execution_time integer NOT NULL,
    success boolean NOT NULL
);
CREATE TABLE public.folder (
    id bigint NOT NULL,
    user_id bigint NOT NULL,
    path text NOT NULL,
    use text,
    deleted_at timestamp with time zone,
    "position" integer,
    hidden boolean DEFAULT false NOT NULL,
    pinned boolean DEFAULT false NOT NULL,
    folded boolean DEFAULT false NOT NULL,
    deleted_in bigint
);
CREATE TABLE public.folder_count (
    folder_id bigint NOT NULL,
    account_id bigint NOT NULL,
    total integer DEFAULT 0 NOT NULL,
    unread integer DEFAULT 0 NOT NULL
);
ALTER TABLE public.folder ALTER COLUMN id ADD GENERATED ALWAYS AS IDENTITY (
    SEQUENCE NAME public.folder_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.folder_wish (
    account_id bigint NOT NULL,
    folder_id bigint NOT NULL
);
CREATE TABLE public.gone_place (
    user_id bigint NOT NULL,
    kind text NOT NULL,
    id bigint NOT NULL,
    name text NOT NULL
);
CREATE TABLE public.habits (
    user_id bigint NOT NULL,
    pane text NOT NULL,
    density text NOT NULL,
    read_after integer,
    opens text NOT NULL,
    unread_only boolean NOT NULL,
    hidden_too boolean NOT NULL,
    trays boolean NOT NULL,
    several_categories boolean DEFAULT false NOT NULL,
    scheme character varying(10) DEFAULT 'SYSTEM'::character varying NOT NULL,
    oldest_first boolean DEFAULT false NOT NULL,
    copy_beside boolean DEFAULT false NOT NULL
);
CREATE TABLE public.kept_as_it_came (
    message_id bigint NOT NULL,
    reason text NOT NULL,
    reader integer NOT NULL
);
CREATE TABLE public.kept_row (
    id bigint NOT NULL,
    batch_id bigint NOT NULL,
    name text NOT NULL,
    before jsonb,
    after jsonb
);
ALTER TABLE public.kept_row ALTER COLUMN id ADD GENERATED ALWAYS AS IDENTITY (
    SEQUENCE NAME public.kept_row_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.key_person (
    user_id bigint NOT NULL,
    value text NOT NULL
);
CREATE TABLE public.known_browser (
    token_hash text NOT NULL,
    user_id bigint NOT NULL,
    last_at timestamp with time zone DEFAULT now() NOT NULL
);
CREATE TABLE public.label (
    id bigint NOT NULL,
    user_id bigint NOT NULL,
    path text NOT NULL,
    tone text NOT NULL,
    keyword text NOT NULL,
    "position" integer,
    hidden boolean DEFAULT false NOT NULL,
    own_colour text
);
CREATE TABLE public.label_count (
    label_id bigint NOT NULL,
    account_id bigint NOT NULL,
    unread integer DEFAULT 0 NOT NULL
);
ALTER TABLE public.label ALTER COLUMN id ADD GENERATED ALWAYS AS IDENTITY (
    SEQUENCE NAME public.label_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.learnt (
    user_id bigint NOT NULL,
    last_lesson bigint NOT NULL,
    gzip bytea NOT NULL
);
CREATE TABLE public.left_list (
    user_id bigint NOT NULL,
    list text NOT NULL,
    at timestamp with time zone DEFAULT now() NOT NULL,
    told text NOT NULL
);
CREATE TABLE public.login_try (
    key text NOT NULL,
    failures integer NOT NULL,
    last_at timestamp with time zone NOT NULL
);
CREATE TABLE public.mailbox (
    id bigint NOT NULL,
    account_id bigint NOT NULL,
    folder_id bigint NOT NULL,
    server_name text NOT NULL,
    uid_validity bigint,
    new_from_uid bigint DEFAULT 1 NOT NULL,
    keywords boolean DEFAULT false NOT NULL,
    path text DEFAULT ''::text NOT NULL,
    wanted_path text,
    read_only boolean DEFAULT false NOT NULL,
    agreed_next bigint,
    agreed_messages integer,
    agreed_mod_seq bigint,
    next_number bigint
);
ALTER TABLE public.mailbox ALTER COLUMN id ADD GENERATED ALWAYS AS IDENTITY (
    SEQUENCE NAME public.mailbox_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.message (
    id bigint NOT NULL,
    user_id bigint NOT NULL,
    account_id bigint NOT NULL,
    folder_id bigint NOT NULL,
    received_at timestamp with time zone NOT NULL,
    unread boolean NOT NULL,
    flagged boolean NOT NULL,
    attachments smallint NOT NULL,
    category_id bigint,
    due_on date,
    tray_id bigint,
    conversation_id bigint,
    also_categories bigint[] DEFAULT '{}'::bigint[] NOT NULL,
    until_on date,
    answered boolean DEFAULT false NOT NULL,
    answered_at timestamp with time zone,
    forwarded boolean DEFAULT false NOT NULL,
    forwarded_at timestamp with time zone,
    held boolean DEFAULT false NOT NULL,
    due_at time without time zone,
    until_at time without time zone,
    flag_id bigint,
    done_on date
)
WITH (fillfactor='80');
CREATE TABLE public.message_head (
    message_id bigint NOT NULL,
    account_id bigint NOT NULL,
    internet_id text NOT NULL,
    size integer NOT NULL,
    sender_name text NOT NULL,
    sender_address text NOT NULL,
    recipients text NOT NULL,
    subject text NOT NULL,
    snippet text NOT NULL,
    sent_to text[] NOT NULL,
    alias text,
    list_id text,
    refs text[] NOT NULL,
    sent_at timestamp with time zone,
    unclaimed text[] DEFAULT '{}'::text[] NOT NULL,
    reply_to text[],
    addressed_to text[],
    traits text[],
    attached jsonb,
    tray_reason text
);
ALTER TABLE public.message ALTER COLUMN id ADD GENERATED ALWAYS AS IDENTITY (
    SEQUENCE NAME public.message_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.message_label (
    message_id bigint NOT NULL,
    label_id bigint NOT NULL
);
CREATE TABLE public.message_search (
    message_id bigint NOT NULL,
    words tsvector NOT NULL
);
ALTER TABLE ONLY public.message_search ALTER COLUMN words SET STATISTICS 1000;
CREATE TABLE public.message_source (
    message_id bigint NOT NULL,
    whole boolean NOT NULL,
    gzip bytea NOT NULL
);
ALTER TABLE ONLY public.message_source ALTER COLUMN gzip SET STORAGE EXTERNAL;
CREATE TABLE public.message_text (
    message_id bigint NOT NULL,
    body text NOT NULL
);
ALTER TABLE ONLY public.message_text ALTER COLUMN body SET COMPRESSION lz4;
CREATE TABLE public.muted (
    user_id bigint NOT NULL,
    conversation_id bigint NOT NULL,
    at timestamp with time zone DEFAULT now() NOT NULL
);
CREATE TABLE public.notification (
    id bigint NOT NULL,
    user_id bigint NOT NULL,
    message_id bigint NOT NULL,
    sound boolean NOT NULL,
    at timestamp with time zone DEFAULT now() NOT NULL,
    due boolean DEFAULT false NOT NULL
);
ALTER TABLE public.notification ALTER COLUMN id ADD GENERATED ALWAYS AS IDENTITY (
    SEQUENCE NAME public.notification_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.outgoing (
    id bigint NOT NULL,
    user_id bigint NOT NULL,
    account_id bigint NOT NULL,
    answers bigint,
    sender text NOT NULL,
    recipients text NOT NULL,
    copies text NOT NULL,
    subject text NOT NULL,
    body text NOT NULL,
    in_reply_to text,
    refs text[] DEFAULT '{}'::text[] NOT NULL,
    state text DEFAULT 'DRAFT'::text NOT NULL,
    message_id text,
    source bytea,
    due_at timestamp with time zone,
    claimed boolean DEFAULT false NOT NULL,
    tries integer DEFAULT 0 NOT NULL,
    trouble text,
    changed_at timestamp with time zone DEFAULT now() NOT NULL,
    forwards bigint,
    forwards_attached boolean DEFAULT false NOT NULL,
    blind text DEFAULT ''::text NOT NULL,
    html text,
    touched boolean DEFAULT false NOT NULL,
    passes_on bigint[] DEFAULT '{}'::bigint[] NOT NULL,
    version integer DEFAULT 0 NOT NULL,
    written_by text DEFAULT ''::text NOT NULL,
    to_self boolean DEFAULT false NOT NULL
);
CREATE TABLE public.outgoing_file (
    id bigint NOT NULL,
    outgoing_id bigint NOT NULL,
    name text NOT NULL,
    type text NOT NULL,
    content bytea NOT NULL,
    at timestamp with time zone DEFAULT now() NOT NULL,
    content_id text
);
ALTER TABLE ONLY public.outgoing_file ALTER COLUMN content SET STORAGE EXTERNAL;
ALTER TABLE public.outgoing_file ALTER COLUMN id ADD GENERATED ALWAYS AS IDENTITY (
    SEQUENCE NAME public.outgoing_file_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
ALTER TABLE public.outgoing ALTER COLUMN id ADD GENERATED ALWAYS AS IDENTITY (
    SEQUENCE NAME public.outgoing_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.own_key (
    user_id bigint NOT NULL,
    usual text NOT NULL,
    chosen text NOT NULL
);
CREATE TABLE public.people_group (
    id bigint NOT NULL,
    user_id bigint NOT NULL,
    name text NOT NULL
);
ALTER TABLE public.people_group ALTER COLUMN id ADD GENERATED ALWAYS AS IDENTITY (
    SEQUENCE NAME public.people_group_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.people_group_member (
    group_id bigint NOT NULL,
    value text NOT NULL
);
CREATE TABLE public.pictures_from (
    user_id bigint NOT NULL,
    address text NOT NULL
);
CREATE TABLE public.plain_correspondent (
    user_id bigint NOT NULL,
    address text NOT NULL
);
CREATE TABLE public.pop_message (
    account_id bigint NOT NULL,
    uidl text NOT NULL,
    message_id bigint,
    size integer,
    wanted boolean DEFAULT true NOT NULL,
    removed_at timestamp with time zone
);
CREATE TABLE public.process (
    name text NOT NULL,
    seen_at timestamp with time zone NOT NULL
);
CREATE TABLE public.put_aside (
    mailbox_id bigint NOT NULL,
    name text NOT NULL,
    reason text NOT NULL,
    tries integer DEFAULT 1 NOT NULL,
    since timestamp with time zone DEFAULT now() NOT NULL,
    next_at timestamp with time zone
);
CREATE TABLE public.quiet (
    user_id bigint NOT NULL,
    minutes integer[] DEFAULT '{}'::integer[] NOT NULL,
    looked_at timestamp with time zone DEFAULT now() NOT NULL,
    notices text DEFAULT 'RULES'::text NOT NULL,
    searches bigint[] DEFAULT '{}'::bigint[] NOT NULL,
    labels bigint[] DEFAULT '{}'::bigint[] NOT NULL
);
CREATE TABLE public.recent_search (
    user_id bigint NOT NULL,
    words text NOT NULL,
    at timestamp with time zone NOT NULL
);
CREATE TABLE public.reminder (
    id bigint NOT NULL,
    user_id bigint NOT NULL,
    message_id bigint NOT NULL,
    due_on date NOT NULL,
    due_at time without time zone NOT NULL,
    at timestamp with time zone DEFAULT now() NOT NULL,
    closed boolean DEFAULT false NOT NULL,
    mailed boolean DEFAULT false NOT NULL
);
ALTER TABLE public.reminder ALTER COLUMN id ADD GENERATED ALWAYS AS IDENTITY (
    SEQUENCE NAME public.reminder_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.routine (
    id bigint NOT NULL,
    user_id bigint NOT NULL,
    "position" integer NOT NULL,
    name text NOT NULL
);
ALTER TABLE public.routine ALTER COLUMN id ADD GENERATED ALWAYS AS IDENTITY (
    SEQUENCE NAME public.routine_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.routine_step (
    routine_id bigint NOT NULL,
    "position" integer NOT NULL,
    kind text NOT NULL,
    folder_id bigint,
    label_id bigint,
    category_id bigint,
    tray_id bigint,
    turned_on boolean DEFAULT true NOT NULL,
    detail text,
    recipients text,
    place_name text DEFAULT ''::text NOT NULL,
    flag_id bigint
);
CREATE TABLE public.rule (
    id bigint NOT NULL,
    user_id bigint NOT NULL,
    "position" integer NOT NULL,
    name text NOT NULL,
    enabled boolean NOT NULL,
    last boolean NOT NULL,
    conditions jsonb NOT NULL,
    created_at timestamp with time zone DEFAULT now() NOT NULL,
    heading text,
    expected real,
    paused text
);
CREATE TABLE public.rule_answer (
    rule_id bigint NOT NULL,
    address text NOT NULL,
    at timestamp with time zone NOT NULL
);
CREATE TABLE public.rule_effect (
    rule_id bigint NOT NULL,
    "position" integer NOT NULL,
    kind text NOT NULL,
    folder_id bigint,
    label_id bigint,
    category_id bigint,
    turned_on boolean DEFAULT true NOT NULL,
    tray_id bigint,
    detail text,
    recipients text,
    flag_id bigint
);
ALTER TABLE public.rule ALTER COLUMN id ADD GENERATED ALWAYS AS IDENTITY (
    SEQUENCE NAME public.rule_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.rule_version (
    id bigint NOT NULL,
    rule_id bigint NOT NULL,
    until timestamp with time zone DEFAULT now() NOT NULL,
    name text NOT NULL,
    last boolean NOT NULL,
    conditions jsonb NOT NULL,
    effects jsonb NOT NULL
);
ALTER TABLE public.rule_version ALTER COLUMN id ADD GENERATED ALWAYS AS IDENTITY (
    SEQUENCE NAME public.rule_version_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.saved_search (
    id bigint NOT NULL,
    user_id bigint NOT NULL,
    name text NOT NULL,
    words text NOT NULL,
    places jsonb DEFAULT '[]'::jsonb NOT NULL,
    "position" integer NOT NULL,
    if_unread boolean DEFAULT false NOT NULL
);
ALTER TABLE public.saved_search ALTER COLUMN id ADD GENERATED ALWAYS AS IDENTITY (
    SEQUENCE NAME public.saved_search_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.saved_text (
    id bigint NOT NULL,
    user_id bigint NOT NULL,
    name text NOT NULL,
    body text NOT NULL
);
ALTER TABLE public.saved_text ALTER COLUMN id ADD GENERATED ALWAYS AS IDENTITY (
    SEQUENCE NAME public.saved_text_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.sent_in_act (
    outgoing_id bigint NOT NULL,
    batch_id bigint NOT NULL,
    recipients text NOT NULL
);
CREATE TABLE public.server_copy (
    message_id bigint NOT NULL,
    mailbox_id bigint,
    uid bigint,
    account_id bigint NOT NULL
);
CREATE TABLE public.server_order (
    id bigint NOT NULL,
    account_id bigint NOT NULL,
    message_id bigint NOT NULL,
    kind text NOT NULL,
    folder_id bigint,
    flag text,
    flag_on boolean,
    trouble text,
    begun boolean DEFAULT false NOT NULL,
    other_id bigint,
    batch_id bigint,
    at timestamp with time zone DEFAULT now() NOT NULL
);
ALTER TABLE public.server_order ALTER COLUMN id ADD GENERATED ALWAYS AS IDENTITY (
    SEQUENCE NAME public.server_order_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.server_script (
    account_id bigint NOT NULL,
    port integer NOT NULL,
    encryption text NOT NULL,
    former text NOT NULL,
    extensions text[] DEFAULT '{}'::text[] NOT NULL,
    script text DEFAULT ''::text NOT NULL,
    rules bigint[] DEFAULT '{}'::bigint[] NOT NULL,
    at timestamp with time zone,
    trouble text,
    next_at timestamp with time zone DEFAULT now() NOT NULL,
    instead text,
    checked_at timestamp with time zone DEFAULT now() NOT NULL
);
CREATE TABLE public.spring_session (
    primary_id character(36) NOT NULL,
    session_id character(36) NOT NULL,
    creation_time bigint NOT NULL,
    last_access_time bigint NOT NULL,
    max_inactive_interval integer NOT NULL,
    expiry_time bigint NOT NULL,
    principal_name character varying(100)
);
CREATE TABLE public.spring_session_attributes (
    session_primary_id character(36) NOT NULL,
    attribute_name character varying(200) NOT NULL,
    attribute_bytes bytea NOT NULL
);
CREATE TABLE public.standing_day (
    id bigint NOT NULL,
    user_id bigint NOT NULL,
    name text NOT NULL,
    weekday integer NOT NULL,
    at time without time zone
);
ALTER TABLE public.standing_day ALTER COLUMN id ADD GENERATED ALWAYS AS IDENTITY (
    SEQUENCE NAME public.standing_day_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.to_index (
    message_id bigint NOT NULL,
    account_id bigint NOT NULL
);
CREATE TABLE public.to_learn (
    id bigint NOT NULL,
    user_id bigint NOT NULL,
    message_id bigint NOT NULL,
    kind text NOT NULL,
    place_id bigint NOT NULL,
    there boolean NOT NULL
);
ALTER TABLE public.to_learn ALTER COLUMN id ADD GENERATED ALWAYS AS IDENTITY (
    SEQUENCE NAME public.to_learn_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.tray (
    id bigint NOT NULL,
    user_id bigint NOT NULL,
    "position" integer NOT NULL,
    name text NOT NULL,
    kind text
);
ALTER TABLE public.tray ALTER COLUMN id ADD GENERATED ALWAYS AS IDENTITY (
    SEQUENCE NAME public.tray_id_seq
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1
);
CREATE TABLE public.tray_sender (
    user_id bigint NOT NULL,
    value text NOT NULL,
    tray_id bigint NOT NULL
);
CREATE TABLE public.unfinished_act (
    batch_id bigint NOT NULL,
    request jsonb,
    messages bigint[] NOT NULL,
    done integer DEFAULT 0 NOT NULL,
    seen_at timestamp with time zone DEFAULT now() NOT NULL,
    stop_wanted boolean DEFAULT false NOT NULL
);
CREATE TABLE public.vocabulary (
    user_id bigint NOT NULL,
    word text NOT NULL COLLATE pg_catalog."C"
);
CREATE TABLE public.waits_for (
    message_id bigint NOT NULL,
    user_id bigint NOT NULL,
    address text NOT NULL,
    until_on date NOT NULL,
    after_message bigint NOT NULL,
    at timestamp with time zone DEFAULT now() NOT NULL
);
INSERT INTO public.account OVERRIDING SYSTEM VALUE VALUES (2, 1, 1, 'RC', 'Account RC', 'MOSS', 'rc1@quay.example', '2026-12-01 01:13:54.458643+00', '127.0.0.1', 143, 'NONE', 'RC', '\x', 'NEW', NULL, 0, 0, 'IMAP', 'PASSWORD', NULL, false, NULL, NULL, NULL, NULL, NULL, false, '', NULL, true, '2026-12-01 01:13:54.458643+00', NULL, 2, 'a test', '2026-12-02 01:13:54.468935+00', 2, 0, NULL);
INSERT INTO public.account OVERRIDING SYSTEM VALUE VALUES (1, 1, 0, 'MU', 'Account MU', 'MOSS', 'mu1@quay.example', '2026-12-01 01:13:54.420301+00', '127.0.0.1', 143, 'NONE', 'MU', '\x', 'NEW', NULL, 0, 0, 'IMAP', 'PASSWORD', NULL, false, NULL, NULL, NULL, NULL, NULL, false, '', NULL, true, '2026-12-01 01:13:54.420301+00', NULL, 3, 'a test', '2026-12-02 01:13:54.457201+00', 2, 0, NULL);
INSERT INTO public.alias VALUES (1, 'loans@quay.example', '', '2026-12-01 01:13:54.420301+00', NULL, NULL, '');
INSERT INTO public.alias VALUES (1, 'show@quay.example', 'the printer', '2026-12-01 01:13:55.665849+00', NULL, NULL, 'Tilda');
INSERT INTO public.app_user OVERRIDING SYSTEM VALUE VALUES (1, 'kept', 'Tilda Marwick', '-', '2026-12-01 01:13:54.351163+00', NULL, false, 0, NULL, NULL, 14, 1);
INSERT INTO public.batch OVERRIDING SYSTEM VALUE VALUES (1, 1, '2026-12-01 01:13:54.714803+00', 'ARRIVAL', 'Filed by From wharf.example', NULL, NULL);
INSERT INTO public.batch OVERRIDING SYSTEM VALUE VALUES (2, 1, '2026-12-01 01:13:54.937417+00', 'ARRIVAL', 'Filed by From wharf.example', NULL, NULL);
INSERT INTO public.batch OVERRIDING SYSTEM VALUE VALUES (3, 1, '2026-12-01 01:13:55.023392+00', 'ARRIVAL', 'Filed by From wharf.example', NULL, NULL);
INSERT INTO public.batch OVERRIDING SYSTEM VALUE VALUES (4, 1, '2026-12-01 01:13:55.109307+00', 'ARRIVAL', 'Filed by From wharf.example', NULL, NULL);
INSERT INTO public.batch OVERRIDING SYSTEM VALUE VALUES (5, 1, '2026-12-01 01:13:55.185741+00', 'ARRIVAL', 'Filed by From wharf.example', NULL, NULL);
INSERT INTO public.batch OVERRIDING SYSTEM VALUE VALUES (6, 1, '2026-12-01 01:13:55.249286+00', 'ARRIVAL', 'Filed by From wharf.example', NULL, NULL);
INSERT INTO public.batch OVERRIDING SYSTEM VALUE VALUES (7, 1, '2026-12-01 01:13:55.300061+00', 'HAND', 'Filed into Club', NULL, NULL);
INSERT INTO public.batch OVERRIDING SYSTEM VALUE VALUES (8, 1, '2026-12-01 01:13:55.360572+00', 'HAND', 'Labelled', NULL, NULL);
INSERT INTO public.batch OVERRIDING SYSTEM VALUE VALUES (9, 1, '2026-12-01 01:13:55.386706+00', 'HAND', 'Marked as read', '2026-12-01 01:13:55.445061+00', '2026-12-01 01:13:55.441534+00');
INSERT INTO public.batch OVERRIDING SYSTEM VALUE VALUES (10, 1, '2026-12-01 01:13:55.449273+00', 'HAND', 'Flagged', NULL, NULL);
INSERT INTO public.batch OVERRIDING SYSTEM VALUE VALUES (11, 1, '2026-12-01 01:13:55.672303+00', 'HAND', 'Flagged', NULL, NULL);
INSERT INTO public.batch OVERRIDING SYSTEM VALUE VALUES (12, 1, '2026-12-01 01:13:55.681459+00', 'HAND', 'Due', NULL, NULL);
INSERT INTO public.batch OVERRIDING SYSTEM VALUE VALUES (13, 1, '2026-12-01 01:13:55.703203+00', 'HAND', 'Flagged as To pay', NULL, NULL);
INSERT INTO public.blocked VALUES (1, 'spam.example', '2026-12-01 01:13:55.643526+00');
INSERT INTO public.category OVERRIDING SYSTEM VALUE VALUES (1, 1, 1, 'Today', 'BRICK', 'category-today', NULL, NULL);
INSERT INTO public.category OVERRIDING SYSTEM VALUE VALUES (2, 1, 2, 'Next', 'AMBER', 'category-next', NULL, NULL);
INSERT INTO public.category OVERRIDING SYSTEM VALUE VALUES (3, 1, 3, 'With others', 'SLATE', 'category-with-others', NULL, NULL);
INSERT INTO public.conversation_key VALUES (1, 446116520450607072, 1);
INSERT INTO public.conversation_key VALUES (1, 8874963727236101133, 1);
INSERT INTO public.conversation_key VALUES (1, -79384118450442888, 1);
INSERT INTO public.conversation_key VALUES (1, -4176703100420624108, 2);
INSERT INTO public.conversation_key VALUES (1, -3550541525902868933, 2);
INSERT INTO public.conversation_key VALUES (1, -7908591424717341061, 2);
INSERT INTO public.conversation_key VALUES (1, 3159248206101434115, 3);
INSERT INTO public.conversation_key VALUES (1, 8577530475739856017, 3);
INSERT INTO public.conversation_key VALUES (1, 7636130640425883298, 3);
INSERT INTO public.conversation_key VALUES (1, -6672084469869601151, 4);
INSERT INTO public.conversation_key VALUES (1, -7562065238109900365, 4);
INSERT INTO public.conversation_key VALUES (1, 6515556731616794989, 4);
INSERT INTO public.conversation_key VALUES (1, -1904580083773694010, 5);
INSERT INTO public.conversation_key VALUES (1, 8679001980023780074, 5);
INSERT INTO public.conversation_key VALUES (1, 3637436277565831643, 5);
INSERT INTO public.conversation_key VALUES (1, -8527788947134102960, 6);
INSERT INTO public.conversation_key VALUES (1, -3014783154632346256, 6);
INSERT INTO public.conversation_key VALUES (1, -1458856657233980006, 6);
INSERT INTO public.conversation_key VALUES (1, -4211546921982767472, 7);
INSERT INTO public.conversation_key VALUES (1, 2237534053867553004, 7);
INSERT INTO public.conversation_key VALUES (1, 3670824865078526498, 7);
INSERT INTO public.conversation_key VALUES (1, -139384125356549316, 8);
INSERT INTO public.conversation_key VALUES (1, 4478963154154965939, 8);
INSERT INTO public.conversation_key VALUES (1, -4281347848148157739, 8);
INSERT INTO public.conversation_key VALUES (1, -2905823941229248099, 9);
INSERT INTO public.conversation_key VALUES (1, -432104194086055670, 9);
INSERT INTO public.conversation_key VALUES (1, 4715564949135385877, 9);
INSERT INTO public.conversation_key VALUES (1, -7922110588385226414, 10);
INSERT INTO public.conversation_key VALUES (1, 6868241953585744615, 10);
INSERT INTO public.conversation_key VALUES (1, -803927928620125493, 10);
INSERT INTO public.conversation_key VALUES (1, 5711416714557939012, 11);
INSERT INTO public.conversation_key VALUES (1, -2460217587295796812, 11);
INSERT INTO public.conversation_key VALUES (1, 6083878476155486186, 11);
INSERT INTO public.conversation_key VALUES (1, -4386345745425440830, 12);
INSERT INTO public.conversation_key VALUES (1, -5289357892085999360, 12);
INSERT INTO public.conversation_key VALUES (1, -6695996174522293984, 12);
INSERT INTO public.day_mail VALUES (1, 1, '{540,810}', '2026-12-01 01:13:55.656776+00');
INSERT INTO public.filing_record OVERRIDING SYSTEM VALUE VALUES (1, 1, 1, 1, 'From wharf.example', '{"from wharf.example"}', 1, 9, true, true, false, false, NULL, NULL, '{}', '{}', NULL, NULL, NULL, 1, 1, '{}', '{}', NULL, NULL, '{}', NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL);
INSERT INTO public.filing_record OVERRIDING SYSTEM VALUE VALUES (2, 2, 3, 1, 'From wharf.example', '{"from wharf.example"}', 1, 9, true, true, false, false, NULL, NULL, '{}', '{}', NULL, NULL, NULL, 1, 1, '{}', '{}', NULL, NULL, '{}', NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL);
INSERT INTO public.filing_record OVERRIDING SYSTEM VALUE VALUES (3, 3, 5, 1, 'From wharf.example', '{"from wharf.example"}', 1, 9, true, true, false, false, NULL, NULL, '{}', '{}', NULL, NULL, NULL, 1, 1, '{}', '{}', NULL, NULL, '{}', NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL);
INSERT INTO public.filing_record OVERRIDING SYSTEM VALUE VALUES (4, 4, 7, 1, 'From wharf.example', '{"from wharf.example"}', 1, 9, true, true, false, false, NULL, NULL, '{}', '{}', NULL, NULL, NULL, 1, 1, '{}', '{}', NULL, NULL, '{}', NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL);
INSERT INTO public.filing_record OVERRIDING SYSTEM VALUE VALUES (5, 5, 9, 1, 'From wharf.example', '{"from wharf.example"}', 1, 9, true, true, false, false, NULL, NULL, '{}', '{}', NULL, NULL, NULL, 1, 1, '{}', '{}', NULL, NULL, '{}', NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL);
INSERT INTO public.filing_record OVERRIDING SYSTEM VALUE VALUES (6, 6, 11, 1, 'From wharf.example', '{"from wharf.example"}', 1, 9, true, true, false, false, NULL, NULL, '{}', '{}', NULL, NULL, NULL, 1, 1, '{}', '{}', NULL, NULL, '{}', NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL);
INSERT INTO public.filing_record OVERRIDING SYSTEM VALUE VALUES (7, 7, 2, NULL, NULL, '{}', 1, 10, false, false, false, false, NULL, NULL, '{}', '{}', NULL, NULL, NULL, 1, 1, '{}', '{}', NULL, NULL, '{}', NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL);
INSERT INTO public.filing_record OVERRIDING SYSTEM VALUE VALUES (8, 7, 3, NULL, NULL, '{}', 9, 10, true, true, false, false, NULL, NULL, '{}', '{}', NULL, NULL, NULL, 1, 1, '{}', '{}', NULL, NULL, '{}', NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL);
INSERT INTO public.filing_record OVERRIDING SYSTEM VALUE VALUES (9, 7, 4, NULL, NULL, '{}', 1, 10, false, false, false, false, NULL, NULL, '{}', '{}', NULL, NULL, NULL, 1, 1, '{}', '{}', NULL, NULL, '{}', NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL);
INSERT INTO public.filing_record OVERRIDING SYSTEM VALUE VALUES (10, 8, 1, NULL, NULL, '{}', 9, 9, true, true, false, false, NULL, NULL, '{}', '{2}', NULL, NULL, NULL, 1, 1, '{}', '{}', NULL, NULL, '{}', NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL);
INSERT INTO public.filing_record OVERRIDING SYSTEM VALUE VALUES (11, 8, 2, NULL, NULL, '{}', 10, 10, false, false, false, false, NULL, NULL, '{}', '{2}', NULL, NULL, NULL, 1, 1, '{}', '{}', NULL, NULL, '{}', NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL);
INSERT INTO public.filing_record OVERRIDING SYSTEM VALUE VALUES (12, 8, 3, NULL, NULL, '{}', 10, 10, true, true, false, false, NULL, NULL, '{}', '{2}', NULL, NULL, NULL, 1, 1, '{}', '{}', NULL, NULL, '{}', NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL);
INSERT INTO public.filing_record OVERRIDING SYSTEM VALUE VALUES (13, 8, 4, NULL, NULL, '{}', 10, 10, false, false, false, false, NULL, NULL, '{}', '{2}', NULL, NULL, NULL, 1, 1, '{}', '{}', NULL, NULL, '{}', NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL);
INSERT INTO public.filing_record OVERRIDING SYSTEM VALUE VALUES (14, 8, 5, NULL, NULL, '{}', 9, 9, true, true, false, false, NULL, NULL, '{}', '{2}', NULL, NULL, NULL, 1, 1, '{}', '{}', NULL, NULL, '{}', NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL);
INSERT INTO public.filing_record OVERRIDING SYSTEM VALUE VALUES (15, 9, 1, NULL, NULL, '{}', 9, 9, true, false, false, false, NULL, NULL, '{2}', '{2}', '2026-12-01 01:13:55.415728+00', NULL, NULL, 1, 1, '{}', '{}', NULL, NULL, '{}', NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL);
INSERT INTO public.filing_record OVERRIDING SYSTEM VALUE VALUES (16, 9, 3, NULL, NULL, '{}', 10, 10, true, false, false, false, NULL, NULL, '{2}', '{2}', '2026-12-01 01:13:55.415728+00', NULL, NULL, 1, 1, '{}', '{}', NULL, NULL, '{}', NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL);
INSERT INTO public.filing_record OVERRIDING SYSTEM VALUE VALUES (17, 9, 5, NULL, NULL, '{}', 9, 9, true, false, false, false, NULL, NULL, '{2}', '{2}', '2026-12-01 01:13:55.415728+00', NULL, NULL, 1, 1, '{}', '{}', NULL, NULL, '{}', NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL);
INSERT INTO public.filing_record OVERRIDING SYSTEM VALUE VALUES (18, 9, 7, NULL, NULL, '{}', 9, 9, true, false, false, false, NULL, NULL, '{}', '{}', '2026-12-01 01:13:55.415728+00', NULL, NULL, 1, 1, '{}', '{}', NULL, NULL, '{}', NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL);
INSERT INTO public.filing_record OVERRIDING SYSTEM VALUE VALUES (19, 9, 9, NULL, NULL, '{}', 9, 9, true, false, false, false, NULL, NULL, '{}', '{}', '2026-12-01 01:13:55.415728+00', NULL, NULL, 1, 1, '{}', '{}', NULL, NULL, '{}', NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL);
INSERT INTO public.filing_record OVERRIDING SYSTEM VALUE VALUES (20, 9, 11, NULL, NULL, '{}', 9, 9, true, false, false, false, NULL, NULL, '{}', '{}', '2026-12-01 01:13:55.415728+00', NULL, NULL, 1, 1, '{}', '{}', NULL, NULL, '{}', NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL);
INSERT INTO public.filing_record OVERRIDING SYSTEM VALUE VALUES (21, 10, 3, NULL, NULL, '{}', 10, 10, true, true, false, true, NULL, NULL, '{2}', '{2}', NULL, NULL, NULL, 1, 1, '{}', '{}', NULL, NULL, '{}', NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL);
INSERT INTO public.filing_record OVERRIDING SYSTEM VALUE VALUES (22, 11, 4, NULL, NULL, '{}', 10, 10, false, false, false, true, NULL, NULL, '{2}', '{2}', NULL, NULL, NULL, 1, 1, '{}', '{}', NULL, NULL, '{}', NULL, NULL, NULL, NULL, NULL, NULL, NULL, NULL);
INSERT INTO public.filing_record OVERRIDING SYSTEM VALUE VALUES (23, 12, 5, NULL, NULL, '{}', 9, 9, true, true, false, true, NULL, NULL, '{2}', '{2}', NULL, NULL, '2026-12-01', 1, 1, '{}', '{}', NULL, NULL, '{}', NULL, '15:00:00', NULL, NULL, NULL, NULL, NULL, NULL);
INSERT INTO public.filing_record OVERRIDING SYSTEM VALUE VALUES (24, 13, 6, NULL, NULL, '{}', 1, 1, false, false, false, true, NULL, NULL, '{}', '{}', NULL, NULL, NULL, 1, 1, '{}', '{}', NULL, NULL, '{}', NULL, NULL, NULL, NULL, NULL, 1, NULL, NULL);
INSERT INTO public.flag OVERRIDING SYSTEM VALUE VALUES (1, 1, 1, 'To pay', 'PETROL');
INSERT INTO public.flyway_schema_history VALUES (1, '1', 'tables', 'SQL', 'V1__tables.sql', 539059555, 'app', '2026-12-01 01:13:50.304467', 128, true);
INSERT INTO public.flyway_schema_history VALUES (2, '2', 'sessions', 'SQL', 'V2__sessions.sql', 2000008682, 'app', '2026-12-01 01:13:50.564575', 10, true);
INSERT INTO public.flyway_schema_history VALUES (3, '3', 'accounts', 'SQL', 'V3__accounts.sql', -971838009, 'app', '2026-12-01 01:13:50.599928', 45, true);
INSERT INTO public.flyway_schema_history VALUES (4, '4', 'filing', 'SQL', 'V4__filing.sql', 512418496, 'app', '2026-12-01 01:13:50.664291', 11, true);
INSERT INTO public.flyway_schema_history VALUES (5, '5', 'people', 'SQL', 'V5__people.sql', 510565125, 'app', '2026-12-01 01:13:50.689496', 15, true);
INSERT INTO public.flyway_schema_history VALUES (6, '6', 'rules', 'SQL', 'V6__rules.sql', 736844870, 'app', '2026-12-01 01:13:50.715209', 12, true);
INSERT INTO public.flyway_schema_history VALUES (7, '7', 'outgoing', 'SQL', 'V7__outgoing.sql', 1577210007, 'app', '2026-12-01 01:13:50.740111', 16, true);
INSERT INTO public.flyway_schema_history VALUES (8, '8', 'places', 'SQL', 'V8__places.sql', 17480746, 'app', '2026-12-01 01:13:50.775408', 57, true);
INSERT INTO public.flyway_schema_history VALUES (9, '9', 'desk and rules', 'SQL', 'V9__desk_and_rules.sql', -518513631, 'app', '2026-12-01 01:13:50.854619', 31, true);
INSERT INTO public.flyway_schema_history VALUES (10, '10', 'tickler and forwarding', 'SQL', 'V10__tickler_and_forwarding.sql', 1682922909, 'app', '2026-12-01 01:13:50.90099', 26, true);
INSERT INTO public.flyway_schema_history VALUES (11, '11', 'import', 'SQL', 'V11__import.sql', 1738223747, 'app', '2026-12-01 01:13:50.937785', 23, true);
INSERT INTO public.flyway_schema_history VALUES (12, '12', 'sound', 'SQL', 'V12__sound.sql', -113151329, 'app', '2026-12-01 01:13:50.97432', 41, true);
INSERT INTO public.flyway_schema_history VALUES (13, '13', 'ground', 'SQL', 'V13__ground.sql', -1544732903, 'app', '2026-12-01 01:13:51.029998', 5, true);
INSERT INTO public.flyway_schema_history VALUES (14, '14', 'acts', 'SQL', 'V14__acts.sql', -1873887865, 'app', '2026-12-01 01:13:51.042209', 19, true);
INSERT INTO public.flyway_schema_history VALUES (15, '15', 'work', 'SQL', 'V15__work.sql', -1172920190, 'app', '2026-12-01 01:13:51.075509', 8, true);
INSERT INTO public.flyway_schema_history VALUES (16, '16', 'hands', 'SQL', 'V16__hands.sql', -1168460640, 'app', '2026-12-01 01:13:51.090149', 3, true);
INSERT INTO public.flyway_schema_history VALUES (17, '17', 'find', 'SQL', 'V17__find.sql', 403791454, 'app', '2026-12-01 01:13:51.100378', 40, true);
INSERT INTO public.flyway_schema_history VALUES (18, '18', 'writing', 'SQL', 'V18__writing.sql', -2093713136, 'app', '2026-12-01 01:13:51.152294', 10, true);
INSERT INTO public.flyway_schema_history VALUES (19, '19', 'learn', 'SQL', 'V19__learn.sql', -329346559, 'app', '2026-12-01 01:13:51.172085', 15, true);
INSERT INTO public.flyway_schema_history VALUES (20, '20', 'routines', 'SQL', 'V20__routines.sql', 645280955, 'app', '2026-12-01 01:13:51.19403', 15, true);
INSERT INTO public.flyway_schema_history VALUES (21, '21', 'awaiting', 'SQL', 'V21__awaiting.sql', 1636007687, 'app', '2026-12-01 01:13:51.215524', 14, true);
INSERT INTO public.flyway_schema_history VALUES (22, '22', 'day', 'SQL', 'V22__day.sql', -1614636497, 'app', '2026-12-01 01:13:51.239116', 3, true);
INSERT INTO public.flyway_schema_history VALUES (23, '23', 'tidy', 'SQL', 'V23__tidy.sql', 874037003, 'app', '2026-12-01 01:13:51.250448', 6, true);
INSERT INTO public.flyway_schema_history VALUES (24, '24', 'noise', 'SQL', 'V24__noise.sql', 610034399, 'app', '2026-12-01 01:13:51.265186', 14, true);
INSERT INTO public.flyway_schema_history VALUES (25, '25', 'formatted', 'SQL', 'V25__formatted.sql', 1739545760, 'app', '2026-12-01 01:13:51.289591', 14, true);
INSERT INTO public.flyway_schema_history VALUES (26, '26', 'drafts', 'SQL', 'V26__drafts.sql', 1220450006, 'app', '2026-12-01 01:13:51.312553', 38, true);
INSERT INTO public.flyway_schema_history VALUES (27, '27', 'quiet', 'SQL', 'V27__quiet.sql', -2033748982, 'app', '2026-12-01 01:13:51.363511', 18, true);
INSERT INTO public.flyway_schema_history VALUES (28, '28', 'hours', 'SQL', 'V28__hours.sql', -184108107, 'app', '2026-12-01 01:13:51.39391', 18, true);
INSERT INTO public.flyway_schema_history VALUES (29, '29', 'flags', 'SQL', 'V29__flags.sql', -769520924, 'app', '2026-12-01 01:13:51.419812', 15, true);
INSERT INTO public.flyway_schema_history VALUES (30, '30', 'to self', 'SQL', 'V30__to_self.sql', -222093933, 'app', '2026-12-01 01:13:51.442501', 3, true);
INSERT INTO public.flyway_schema_history VALUES (31, '31', 'own filter', 'SQL', 'V31__own_filter.sql', 205996952, 'app', '2026-12-01 01:13:51.454446', 3, true);
INSERT INTO public.flyway_schema_history VALUES (32, '32', 'folder wish', 'SQL', 'V32__folder_wish.sql', -2127914768, 'app', '2026-12-01 01:13:51.463289', 7, true);
INSERT INTO public.flyway_schema_history VALUES (33, '33', 'done', 'SQL', 'V33__done.sql', -1520016114, 'app', '2026-12-01 01:13:51.47633', 5, true);
INSERT INTO public.flyway_schema_history VALUES (34, '34', 'groups', 'SQL', 'V34__groups.sql', 1251237822, 'app', '2026-12-01 01:13:51.489069', 7, true);
INSERT INTO public.folder OVERRIDING SYSTEM VALUE VALUES (1, 1, 'Inbox', 'INBOX', NULL, NULL, false, false, false, NULL);
INSERT INTO public.folder OVERRIDING SYSTEM VALUE VALUES (2, 1, 'Tickler', 'TICKLER', NULL, NULL, false, false, false, NULL);
INSERT INTO public.folder OVERRIDING SYSTEM VALUE VALUES (3, 1, 'Drafts', 'DRAFTS', NULL, NULL, false, false, false, NULL);
INSERT INTO public.folder OVERRIDING SYSTEM VALUE VALUES (4, 1, 'Sent', 'SENT', NULL, NULL, false, false, false, NULL);
INSERT INTO public.folder OVERRIDING SYSTEM VALUE VALUES (5, 1, 'Archive', 'ARCHIVE', NULL, NULL, false, false, false, NULL);
INSERT INTO public.folder OVERRIDING SYSTEM VALUE VALUES (6, 1, 'Junk', 'JUNK', NULL, NULL, false, false, false, NULL);
INSERT INTO public.folder OVERRIDING SYSTEM VALUE VALUES (7, 1, 'Trash', 'TRASH', NULL, NULL, false, false, false, NULL);
INSERT INTO public.folder OVERRIDING SYSTEM VALUE VALUES (8, 1, 'Loans', NULL, NULL, NULL, false, false, false, NULL);
INSERT INTO public.folder OVERRIDING SYSTEM VALUE VALUES (9, 1, 'Loans/Wharf', NULL, NULL, NULL, false, false, false, NULL);
INSERT INTO public.folder OVERRIDING SYSTEM VALUE VALUES (10, 1, 'Club', NULL, NULL, NULL, false, false, false, NULL);
INSERT INTO public.folder_count VALUES (1, 2, 4, 0);
INSERT INTO public.folder_count VALUES (10, 2, 2, 0);
INSERT INTO public.folder_count VALUES (9, 1, 5, 5);
INSERT INTO public.folder_count VALUES (10, 1, 1, 1);
INSERT INTO public.key_person VALUES (1, 'anna@wharf.example');
INSERT INTO public.label OVERRIDING SYSTEM VALUE VALUES (1, 1, 'Show', 'MOSS', 'label-show', NULL, false, NULL);
INSERT INTO public.label OVERRIDING SYSTEM VALUE VALUES (2, 1, 'Show/Crates', 'MOSS', 'label-show-crates', NULL, false, NULL);
INSERT INTO public.label_count VALUES (2, 1, 3);
INSERT INTO public.mailbox OVERRIDING SYSTEM VALUE VALUES (1, 1, 1, 'INBOX', 7, 1, true, 'INBOX', NULL, false, NULL, NULL, NULL, NULL);
INSERT INTO public.mailbox OVERRIDING SYSTEM VALUE VALUES (2, 2, 1, 'INBOX', 7, 1, true, 'INBOX', NULL, false, NULL, NULL, NULL, NULL);
INSERT INTO public.message OVERRIDING SYSTEM VALUE VALUES (8, 1, 2, 1, '2026-11-23 08:00:00+00', false, false, 0, NULL, NULL, 1, 8, '{}', NULL, false, NULL, false, NULL, false, NULL, NULL, NULL, NULL);
INSERT INTO public.message OVERRIDING SYSTEM VALUE VALUES (10, 1, 2, 1, '2026-11-23 08:00:00+00', false, false, 0, NULL, NULL, 1, 10, '{}', NULL, false, NULL, false, NULL, false, NULL, NULL, NULL, NULL);
INSERT INTO public.message OVERRIDING SYSTEM VALUE VALUES (12, 1, 2, 1, '2026-11-23 08:00:00+00', false, false, 0, NULL, NULL, 1, 12, '{}', NULL, false, NULL, false, NULL, false, NULL, NULL, NULL, NULL);
INSERT INTO public.message OVERRIDING SYSTEM VALUE VALUES (2, 1, 2, 10, '2026-11-23 08:00:00+00', false, false, 0, NULL, NULL, 1, 2, '{}', NULL, false, NULL, false, NULL, false, NULL, NULL, NULL, NULL);
INSERT INTO public.message OVERRIDING SYSTEM VALUE VALUES (7, 1, 1, 9, '2026-11-23 08:00:00+00', true, false, 0, NULL, NULL, 1, 7, '{}', NULL, false, NULL, false, NULL, false, NULL, NULL, NULL, NULL);
INSERT INTO public.message OVERRIDING SYSTEM VALUE VALUES (9, 1, 1, 9, '2026-11-23 08:00:00+00', true, false, 0, NULL, NULL, 1, 9, '{}', NULL, false, NULL, false, NULL, false, NULL, NULL, NULL, NULL);
INSERT INTO public.message OVERRIDING SYSTEM VALUE VALUES (11, 1, 1, 9, '2026-11-23 08:00:00+00', true, false, 0, NULL, NULL, 1, 11, '{}', NULL, false, NULL, false, NULL, false, NULL, NULL, NULL, NULL);
INSERT INTO public.message OVERRIDING SYSTEM VALUE VALUES (1, 1, 1, 9, '2026-11-23 08:00:00+00', true, false, 0, NULL, NULL, 1, 1, '{}', NULL, false, NULL, false, NULL, false, NULL, NULL, NULL, NULL);
INSERT INTO public.message OVERRIDING SYSTEM VALUE VALUES (3, 1, 1, 10, '2026-11-23 08:00:00+00', true, true, 0, NULL, NULL, 1, 3, '{}', NULL, false, NULL, false, NULL, false, NULL, NULL, NULL, NULL);
INSERT INTO public.message OVERRIDING SYSTEM VALUE VALUES (4, 1, 2, 10, '2026-11-23 08:00:00+00', false, true, 0, NULL, NULL, 1, 4, '{}', NULL, false, NULL, false, NULL, false, NULL, NULL, NULL, NULL);
INSERT INTO public.message OVERRIDING SYSTEM VALUE VALUES (5, 1, 1, 9, '2026-11-23 08:00:00+00', true, true, 0, NULL, '2026-12-01', 1, 5, '{}', NULL, false, NULL, false, NULL, false, '15:00:00', NULL, NULL, NULL);
INSERT INTO public.message OVERRIDING SYSTEM VALUE VALUES (6, 1, 2, 1, '2026-11-23 08:00:00+00', false, true, 0, NULL, NULL, 1, 6, '{}', NULL, false, NULL, false, NULL, false, NULL, NULL, 1, NULL);
INSERT INTO public.message_head VALUES (1, 1, 'm1@quay.example', 191, 'Anna', 'anna@wharf.example', 'me@quay.example', 'Crate 0', 'Größe: 0', '{}', NULL, NULL, '{}', NULL, '{me@quay.example}', '{}', '{me@quay.example}', '{NOT_ADDRESSED}', '[]', 'a person writes, of something new');
INSERT INTO public.message_head VALUES (2, 2, 'm2@quay.example', 184, '', 'ben@pier.example', 'me@quay.example', 'Regatta 0', 'Some text.', '{}', NULL, NULL, '{}', NULL, '{me@quay.example}', '{}', '{me@quay.example}', '{NOT_ADDRESSED}', '[]', 'a person writes, of something new');
INSERT INTO public.message_head VALUES (3, 1, 'm3@quay.example', 191, 'Anna', 'anna@wharf.example', 'me@quay.example', 'Crate 1', 'Größe: 1', '{}', NULL, NULL, '{}', NULL, '{me@quay.example}', '{}', '{me@quay.example}', '{NOT_ADDRESSED}', '[]', 'a person writes, of something new');
INSERT INTO public.message_head VALUES (4, 2, 'm4@quay.example', 184, '', 'ben@pier.example', 'me@quay.example', 'Regatta 1', 'Some text.', '{}', NULL, NULL, '{}', NULL, '{me@quay.example}', '{}', '{me@quay.example}', '{NOT_ADDRESSED}', '[]', 'a person writes, of something new');
INSERT INTO public.message_head VALUES (5, 1, 'm5@quay.example', 191, 'Anna', 'anna@wharf.example', 'me@quay.example', 'Crate 2', 'Größe: 2', '{}', NULL, NULL, '{}', NULL, '{me@quay.example}', '{}', '{me@quay.example}', '{NOT_ADDRESSED}', '[]', 'a person writes, of something new');
INSERT INTO public.message_head VALUES (6, 2, 'm6@quay.example', 184, '', 'ben@pier.example', 'me@quay.example', 'Regatta 2', 'Some text.', '{}', NULL, NULL, '{}', NULL, '{me@quay.example}', '{}', '{me@quay.example}', '{NOT_ADDRESSED}', '[]', 'a person writes, of something new');
INSERT INTO public.message_head VALUES (7, 1, 'm7@quay.example', 191, 'Anna', 'anna@wharf.example', 'me@quay.example', 'Crate 3', 'Größe: 3', '{}', NULL, NULL, '{}', NULL, '{me@quay.example}', '{}', '{me@quay.example}', '{NOT_ADDRESSED}', '[]', 'a person writes, of something new');
INSERT INTO public.message_head VALUES (8, 2, 'm8@quay.example', 184, '', 'ben@pier.example', 'me@quay.example', 'Regatta 3', 'Some text.', '{}', NULL, NULL, '{}', NULL, '{me@quay.example}', '{}', '{me@quay.example}', '{NOT_ADDRESSED}', '[]', 'a person writes, of something new');
INSERT INTO public.message_head VALUES (9, 1, 'm9@quay.example', 191, 'Anna', 'anna@wharf.example', 'me@quay.example', 'Crate 4', 'Größe: 4', '{}', NULL, NULL, '{}', NULL, '{me@quay.example}', '{}', '{me@quay.example}', '{NOT_ADDRESSED}', '[]', 'a person writes, of something new');
INSERT INTO public.message_head VALUES (10, 2, 'm10@quay.example', 185, '', 'ben@pier.example', 'me@quay.example', 'Regatta 4', 'Some text.', '{}', NULL, NULL, '{}', NULL, '{me@quay.example}', '{}', '{me@quay.example}', '{NOT_ADDRESSED}', '[]', 'a person writes, of something new');
INSERT INTO public.message_head VALUES (11, 1, 'm11@quay.example', 192, 'Anna', 'anna@wharf.example', 'me@quay.example', 'Crate 5', 'Größe: 5', '{}', NULL, NULL, '{}', NULL, '{me@quay.example}', '{}', '{me@quay.example}', '{NOT_ADDRESSED}', '[]', 'a person writes, of something new');
INSERT INTO public.message_head VALUES (12, 2, 'm12@quay.example', 185, '', 'ben@pier.example', 'me@quay.example', 'Regatta 5', 'Some text.', '{}', NULL, NULL, '{}', NULL, '{me@quay.example}', '{}', '{me@quay.example}', '{NOT_ADDRESSED}', '[]', 'a person writes, of something new');
INSERT INTO public.message_label VALUES (1, 2);
INSERT INTO public.message_label VALUES (2, 2);
INSERT INTO public.message_label VALUES (3, 2);
INSERT INTO public.message_label VALUES (4, 2);
INSERT INTO public.message_label VALUES (5, 2);
INSERT INTO public.message_source VALUES (1, true, '\x1f8b08000000000000ff558d4b0e82301445e74dba87b701fccc484583c14f1c38920d3cf08118da62fb88b01a77e106d8989d98e8e40e6e4ece3938ab156c8d4148306cfabca1ab6634a0ee5ada48915b059ad2478fe3f795e2d217772a5941e6900916529cc97bac293aed14247af9c7074b660d93e1281f3b52c034f0bc6bb1312b2843cf13af7baea2f80774687c452eda9bd25e1b532b888b86a590e2e8a6f7f40a9a90fd0056be9edcbf000000');
INSERT INTO public.message_source VALUES (2, true, '\x1f8b08000000000000ff558c4b0ac2301040f781dc612e902aae4afc50f0032edc682f30add31a69263199427b7bc18dba7dbcf74e29780b0d71151da58226f47120adea60c153f51a71fec2dbd83ca9150b57ea510461a9d58572c69eccf96061e3577fc54eab7d60211653cf912c084db288033a5e43fbc09449b6a374a6fc111372ee289923b7e1eeb8b750364eb4d2ea163c7d1685566ff149928bb8000000');
INSERT INTO public.message_source VALUES (3, true, '\x1f8b08000000000000ff558d4d0e82301046f74d7a87b9001ae386543418fc890b5772810107c4d016db21c269bc8517e0627663a29b6ff1e5e5bd83b35ac1d6188404c3a6cf1bba6a4603eaaea58d14b955a0297df4387e5f292e7d71a79215640e996021c599bcc79aa2d34e41a2977f7cb064d630198ef2b123054c03cfbb161bb38232f43cf1bae72a8a7f4087c657e4a2bd29edb531b582b868580a298e6e7a4fafa009d90f542a102ebf000000');
INSERT INTO public.message_source VALUES (4, true, '\x1f8b08000000000000ff558c4b0ac2301040f781dc612e908ae0a2c40f053fe0c28df602d33aad9166129329b4b717dca8dbc77bef9482b7d01057d1512a68421f07d2aa0e163c55af11e72fbc8dcd935ab170a51e4510965a5d2867ecc99c0f16367ef557ecb4da07166231f51cc982d0248b38a0e335b40f4c99643b4a67ca1f3121e78e9239721bee8e7b0b65e3442bad6ec1d3675168f506523be0b4b8000000');
INSERT INTO public.message_source VALUES (5, true, '\x1f8b08000000000000ff558d4d0ac2301046f781dc612e50054128b14aa5fee0c295bdc0b44e6ba5496a32c5f634dec20bf4626623e8e65b7c3cde3b38ab156c8d4148306cfabca1ab6634a0ee5ada48915b059ad2478fe3f795e2d217772a5941e6900916529cc97bac293aed14247af9c7074b660d93e1281f3b52c034f0bc6bb1312b2843cf13af7baea2f80774687c452eda9bd25e1b532b888b86a590e2e8a6f7f40a9a90fd001390f2e2bf000000');
INSERT INTO public.message_source VALUES (6, true, '\x1f8b08000000000000ff558c4b0ac2301040f781dc612e900a2ea4c40f053fe0c28df602d33aad9166129329b4b717dca8dbc77bef9482b7d01057d1512a68421f07d2aa0e163c55af11e72fbc8dcd935ab170a51e4510965a5d2867ecc99c0f16367ef557ecb4da07166231f51cc982d0248b38a0e335b40f4c99643b4a67ca1f3121e78e9239721bee8e7b0b65e3442bad6ec1d3675168f506dab37ab6b8000000');
INSERT INTO public.message_source VALUES (7, true, '\x1f8b08000000000000ff558d4d0e82301046f74d7a87b900ba7021a96830f81317aee402030e88a12db64384d3780b2fc0c5ecc64437dfe2cbcb7b0767b582ad310809864d9f3774d58c06d45d4b1b2972ab4053fae871fcbe525cfae24e252bc81c32c1428a33798f3545a79d82442ffff860c9ac61321ce563470a98069e772d36660565e879e275cf5514ff800e8dafc8457b53da6b636a0571d1b014521cddf49e5e4113b21f11047c10bf000000');
INSERT INTO public.message_source VALUES (8, true, '\x1f8b08000000000000ff558c4b0ac2301040f781dc612e90ba7053e287821f70e1c6f602d33aad9166129329b4b717dca8dbc77bef9c82b7d01257d1512a68461f47d2aa09163c55af09972faca7f6499d58b8d18022086badae94330e642e470b5b5ffe157bad0e8185584cb344b22034cb2a8ee87803dd035326d94dd29bf2474cc8b9a7644edc85bbe3c142d93ad14aab3a78fa2c0aadde14de04cab8000000');
INSERT INTO public.message_source VALUES (9, true, '\x1f8b08000000000000ff558d4d0e82301046f74d7a87b94075e3022b1a0cfec4852bb9c080036268c17688701a6fe105b898dd98e8e65b7c7979efe05aa3616b2d428c6193e70d5d39a3014dd7d0468aacd5602879f4387e5f292e7d7ea78235a40e996021c599bcc78ad469a72136cb3f3e58d2d6325956d9d89106a681e75d83b55d41117a9e78dd73a9a21fd0a1f52539b5b7457bad6da521ca6b96428aa39bded32b6842f603dce246a0bf000000');
INSERT INTO public.message_source VALUES (10, true, '\x1f8b08000000000000ff558c4b0ac2301400f781dce15d2055c145891f0a7ec0851bdb0bbcd6d718693e26afd0de5e70a36e879939a7e034b4e4ab68291534a18b0349d1040d8eaad788f317d663fba48e35dcc82033c25a8a2be58c86d4e5a861eb56cbbf642fc5217826cfaa992369609a781107b47e03dd035326de8ddcabf2474ce8734f499d7c17eed61b0d656b590a29eae0e8b328a4780325cf8c01b9000000');
INSERT INTO public.message_source VALUES (11, true, '\x1f8b08000000000000ff558d4d0e82301085f74d7a87b9001a1626a4a2d1e04f5cb8920b0c382086b6d80e114ee32dbc0017b31b13ddbcc5cb7bdf7770562bd81a839062c8cdf386ae9ad180ba6b692d456e1568da3c7a1cbfad1497beb853c90a32874cb090e24cde634dd169a720d571fc770898cc1a26c3513e76a48069e079d76263965006a1275ef55c45c9cfd0a1f115b9686f4a7b6d4cad20291a96428aa39bded32b6082f7039eea7a28c0000000');
INSERT INTO public.message_source VALUES (12, true, '\x1f8b08000000000000ff558c4b0ac2301400f781dce15d201505a1c40f053fe0c28ded055eeb6b8c341f9357686f2fb851b7c3cc9c53701a5af255b4940a9ad0c581a468820647d56bc4f90bebb17d52c71a6e649019612dc595724643ea72d4b075cbd55fb297e2103c9367d5cc9134304dbc88035abf81ee812913ef46ee55f92326f4b9a7a44ebe0b77eb8d86b2b52c85147570f4591452bc01ed86bbd0b9000000');
INSERT INTO public.message_text VALUES (1, 'Größe: 0
');
INSERT INTO public.message_text VALUES (2, 'Some text.
');
INSERT INTO public.message_text VALUES (3, 'Größe: 1
');
INSERT INTO public.message_text VALUES (4, 'Some text.
');
INSERT INTO public.message_text VALUES (5, 'Größe: 2
');
INSERT INTO public.message_text VALUES (6, 'Some text.
');
INSERT INTO public.message_text VALUES (7, 'Größe: 3
');
INSERT INTO public.message_text VALUES (8, 'Some text.
');
INSERT INTO public.message_text VALUES (9, 'Größe: 4
');
INSERT INTO public.message_text VALUES (10, 'Some text.
');
INSERT INTO public.message_text VALUES (11, 'Größe: 5
');
INSERT INTO public.message_text VALUES (12, 'Some text.
');
INSERT INTO public.outgoing OVERRIDING SYSTEM VALUE VALUES (1, 1, 1, 1, 'loans@quay.example', 'anna@wharf.example', '', 'Re: Crate', 'Größe?', NULL, '{a@wharf.example}', 'DRAFT', NULL, NULL, NULL, false, 0, NULL, '2026-12-01 01:13:55.46852+00', NULL, false, '', '<p>Größe?</p>', true, '{}', 1, '', false);
INSERT INTO public.outgoing_file OVERRIDING SYSTEM VALUE VALUES (1, 1, 'list.txt', 'text/plain', '\x78', '2026-12-01 01:13:55.46852+00', NULL);
INSERT INTO public.quiet VALUES (1, '{540,810}', '2026-12-01 01:13:55.649213+00', 'KEY_PEOPLE', '{}', '{}');
INSERT INTO public.routine OVERRIDING SYSTEM VALUE VALUES (1, 1, 1, 'Done');
INSERT INTO public.routine_step VALUES (1, 0, 'READ', NULL, NULL, NULL, NULL, true, NULL, NULL, '', NULL);
INSERT INTO public.routine_step VALUES (1, 1, 'FLAG', NULL, NULL, NULL, NULL, false, NULL, NULL, '', NULL);
INSERT INTO public.rule OVERRIDING SYSTEM VALUE VALUES (1, 1, 1, 'From wharf.example', true, false, '{"when": [{"kind": "SENDER", "match": null, "parts": [], "values": ["wharf.example"], "negated": false}], "unless": []}', '2026-12-01 01:13:54.483314+00', NULL, NULL, NULL);
INSERT INTO public.rule_effect VALUES (1, 0, 'FILE', 9, NULL, NULL, true, NULL, NULL, NULL, NULL);
INSERT INTO public.saved_search OVERRIDING SYSTEM VALUE VALUES (1, 1, 'Crates', 'crates in loans', '[{"id": "8", "kind": "FOLDER", "name": "Loans"}]', 1, false);
INSERT INTO public.saved_text OVERRIDING SYSTEM VALUE VALUES (1, 1, 'Opening hours', 'Dear {name},');
INSERT INTO public.server_copy VALUES (1, 1, 1, 1);
INSERT INTO public.server_copy VALUES (2, 2, 2, 2);
INSERT INTO public.server_copy VALUES (3, 1, 3, 1);
INSERT INTO public.server_copy VALUES (4, 2, 4, 2);
INSERT INTO public.server_copy VALUES (5, 1, 5, 1);
INSERT INTO public.server_copy VALUES (6, 2, 6, 2);
INSERT INTO public.server_copy VALUES (7, 1, 7, 1);
INSERT INTO public.server_copy VALUES (8, 2, 8, 2);
INSERT INTO public.server_copy VALUES (9, 1, 9, 1);
INSERT INTO public.server_copy VALUES (10, 2, 10, 2);
INSERT INTO public.server_copy VALUES (11, 1, 11, 1);
INSERT INTO public.server_copy VALUES (12, 2, 12, 2);
INSERT INTO public.server_order OVERRIDING SYSTEM VALUE VALUES (1, 1, 1, 'MOVE', 9, NULL, NULL, NULL, false, NULL, NULL, '2026-12-01 01:13:54.714803+00');
INSERT INTO public.server_order OVERRIDING SYSTEM VALUE VALUES (2, 1, 3, 'MOVE', 9, NULL, NULL, NULL, false, NULL, NULL, '2026-12-01 01:13:54.937417+00');
INSERT INTO public.server_order OVERRIDING SYSTEM VALUE VALUES (3, 1, 5, 'MOVE', 9, NULL, NULL, NULL, false, NULL, NULL, '2026-12-01 01:13:55.023392+00');
INSERT INTO public.server_order OVERRIDING SYSTEM VALUE VALUES (4, 1, 7, 'MOVE', 9, NULL, NULL, NULL, false, NULL, NULL, '2026-12-01 01:13:55.109307+00');
INSERT INTO public.server_order OVERRIDING SYSTEM VALUE VALUES (5, 1, 9, 'MOVE', 9, NULL, NULL, NULL, false, NULL, NULL, '2026-12-01 01:13:55.185741+00');
INSERT INTO public.server_order OVERRIDING SYSTEM VALUE VALUES (6, 1, 11, 'MOVE', 9, NULL, NULL, NULL, false, NULL, NULL, '2026-12-01 01:13:55.249286+00');
INSERT INTO public.server_order OVERRIDING SYSTEM VALUE VALUES (7, 2, 2, 'MOVE', 10, NULL, NULL, NULL, false, NULL, NULL, '2026-12-01 01:13:55.300061+00');
INSERT INTO public.server_order OVERRIDING SYSTEM VALUE VALUES (8, 1, 3, 'MOVE', 10, NULL, NULL, NULL, false, NULL, NULL, '2026-12-01 01:13:55.300061+00');
INSERT INTO public.server_order OVERRIDING SYSTEM VALUE VALUES (9, 2, 4, 'MOVE', 10, NULL, NULL, NULL, false, NULL, NULL, '2026-12-01 01:13:55.300061+00');
INSERT INTO public.server_order OVERRIDING SYSTEM VALUE VALUES (10, 1, 1, 'MARK', NULL, 'label-show-crates', true, NULL, false, NULL, NULL, '2026-12-01 01:13:55.360572+00');
INSERT INTO public.server_order OVERRIDING SYSTEM VALUE VALUES (11, 2, 2, 'MARK', NULL, 'label-show-crates', true, NULL, false, NULL, NULL, '2026-12-01 01:13:55.360572+00');
INSERT INTO public.server_order OVERRIDING SYSTEM VALUE VALUES (12, 1, 3, 'MARK', NULL, 'label-show-crates', true, NULL, false, NULL, NULL, '2026-12-01 01:13:55.360572+00');
INSERT INTO public.server_order OVERRIDING SYSTEM VALUE VALUES (13, 2, 4, 'MARK', NULL, 'label-show-crates', true, NULL, false, NULL, NULL, '2026-12-01 01:13:55.360572+00');
INSERT INTO public.server_order OVERRIDING SYSTEM VALUE VALUES (14, 1, 5, 'MARK', NULL, 'label-show-crates', true, NULL, false, NULL, NULL, '2026-12-01 01:13:55.360572+00');
INSERT INTO public.server_order OVERRIDING SYSTEM VALUE VALUES (15, 1, 1, 'MARK', NULL, '\Seen', true, NULL, false, NULL, NULL, '2026-12-01 01:13:55.386706+00');
INSERT INTO public.server_order OVERRIDING SYSTEM VALUE VALUES (16, 1, 3, 'MARK', NULL, '\Seen', true, NULL, false, NULL, NULL, '2026-12-01 01:13:55.386706+00');
INSERT INTO public.server_order OVERRIDING SYSTEM VALUE VALUES (17, 1, 5, 'MARK', NULL, '\Seen', true, NULL, false, NULL, NULL, '2026-12-01 01:13:55.386706+00');
INSERT INTO public.server_order OVERRIDING SYSTEM VALUE VALUES (18, 1, 7, 'MARK', NULL, '\Seen', true, NULL, false, NULL, NULL, '2026-12-01 01:13:55.386706+00');
INSERT INTO public.server_order OVERRIDING SYSTEM VALUE VALUES (19, 1, 9, 'MARK', NULL, '\Seen', true, NULL, false, NULL, NULL, '2026-12-01 01:13:55.386706+00');
INSERT INTO public.server_order OVERRIDING SYSTEM VALUE VALUES (20, 1, 11, 'MARK', NULL, '\Seen', true, NULL, false, NULL, NULL, '2026-12-01 01:13:55.386706+00');
INSERT INTO public.server_order OVERRIDING SYSTEM VALUE VALUES (21, 1, 11, 'MARK', NULL, '\Seen', false, NULL, false, NULL, NULL, '2026-12-01 01:13:55.415728+00');
INSERT INTO public.server_order OVERRIDING SYSTEM VALUE VALUES (22, 1, 9, 'MARK', NULL, '\Seen', false, NULL, false, NULL, NULL, '2026-12-01 01:13:55.415728+00');
INSERT INTO public.server_order OVERRIDING SYSTEM VALUE VALUES (23, 1, 7, 'MARK', NULL, '\Seen', false, NULL, false, NULL, NULL, '2026-12-01 01:13:55.415728+00');
INSERT INTO public.server_order OVERRIDING SYSTEM VALUE VALUES (24, 1, 5, 'MARK', NULL, '\Seen', false, NULL, false, NULL, NULL, '2026-12-01 01:13:55.415728+00');
INSERT INTO public.server_order OVERRIDING SYSTEM VALUE VALUES (25, 1, 3, 'MARK', NULL, '\Seen', false, NULL, false, NULL, NULL, '2026-12-01 01:13:55.415728+00');
INSERT INTO public.server_order OVERRIDING SYSTEM VALUE VALUES (26, 1, 1, 'MARK', NULL, '\Seen', false, NULL, false, NULL, NULL, '2026-12-01 01:13:55.415728+00');
INSERT INTO public.server_order OVERRIDING SYSTEM VALUE VALUES (27, 1, 3, 'MARK', NULL, '\Flagged', true, NULL, false, NULL, NULL, '2026-12-01 01:13:55.449273+00');
INSERT INTO public.server_order OVERRIDING SYSTEM VALUE VALUES (28, 2, 4, 'MARK', NULL, '\Flagged', true, NULL, false, NULL, NULL, '2026-12-01 01:13:55.672303+00');
INSERT INTO public.server_order OVERRIDING SYSTEM VALUE VALUES (29, 1, 5, 'MARK', NULL, '\Flagged', true, NULL, false, NULL, NULL, '2026-12-01 01:13:55.681459+00');
INSERT INTO public.server_order OVERRIDING SYSTEM VALUE VALUES (30, 2, 6, 'MARK', NULL, '\Flagged', true, NULL, false, NULL, NULL, '2026-12-01 01:13:55.703203+00');
INSERT INTO public.standing_day OVERRIDING SYSTEM VALUE VALUES (1, 1, 'Saturday morning', 6, '09:00:00');
INSERT INTO public.to_index VALUES (1, 1);
INSERT INTO public.to_index VALUES (2, 2);
INSERT INTO public.to_index VALUES (3, 1);
INSERT INTO public.to_index VALUES (4, 2);
INSERT INTO public.to_index VALUES (5, 1);
INSERT INTO public.to_index VALUES (6, 2);
INSERT INTO public.to_index VALUES (7, 1);
INSERT INTO public.to_index VALUES (8, 2);
INSERT INTO public.to_index VALUES (9, 1);
INSERT INTO public.to_index VALUES (10, 2);
INSERT INTO public.to_index VALUES (11, 1);
INSERT INTO public.to_index VALUES (12, 2);
INSERT INTO public.to_learn OVERRIDING SYSTEM VALUE VALUES (1, 1, 2, 'FOLDER', 1, false);
INSERT INTO public.to_learn OVERRIDING SYSTEM VALUE VALUES (2, 1, 2, 'FOLDER', 10, true);
INSERT INTO public.to_learn OVERRIDING SYSTEM VALUE VALUES (3, 1, 3, 'FOLDER', 9, false);
INSERT INTO public.to_learn OVERRIDING SYSTEM VALUE VALUES (4, 1, 3, 'FOLDER', 10, true);
INSERT INTO public.to_learn OVERRIDING SYSTEM VALUE VALUES (5, 1, 4, 'FOLDER', 1, false);
INSERT INTO public.to_learn OVERRIDING SYSTEM VALUE VALUES (6, 1, 4, 'FOLDER', 10, true);
INSERT INTO public.to_learn OVERRIDING SYSTEM VALUE VALUES (7, 1, 1, 'LABEL', 2, true);
INSERT INTO public.to_learn OVERRIDING SYSTEM VALUE VALUES (8, 1, 2, 'LABEL', 2, true);
INSERT INTO public.to_learn OVERRIDING SYSTEM VALUE VALUES (9, 1, 3, 'LABEL', 2, true);
INSERT INTO public.to_learn OVERRIDING SYSTEM VALUE VALUES (10, 1, 4, 'LABEL', 2, true);
INSERT INTO public.to_learn OVERRIDING SYSTEM VALUE VALUES (11, 1, 5, 'LABEL', 2, true);
INSERT INTO public.tray OVERRIDING SYSTEM VALUE VALUES (1, 1, 1, 'People', 'PEOPLE');
INSERT INTO public.tray OVERRIDING SYSTEM VALUE VALUES (2, 1, 2, 'Ongoing', 'ONGOING');
INSERT INTO public.tray OVERRIDING SYSTEM VALUE VALUES (3, 1, 3, 'Notices', 'NOTICES');
INSERT INTO public.tray OVERRIDING SYSTEM VALUE VALUES (4, 1, 4, 'Records', 'RECORDS');
SELECT pg_catalog.setval('public.account_event_id_seq', 1, false);
SELECT pg_catalog.setval('public.account_id_seq', 2, true);
SELECT pg_catalog.setval('public.app_user_id_seq', 1, true);
SELECT pg_catalog.setval('public.batch_id_seq', 13, true);
SELECT pg_catalog.setval('public.category_id_seq', 3, true);
SELECT pg_catalog.setval('public.draft_copy_id_seq', 1, false);
SELECT pg_catalog.setval('public.filing_record_id_seq', 24, true);
SELECT pg_catalog.setval('public.flag_id_seq', 1, true);
SELECT pg_catalog.setval('public.folder_id_seq', 10, true);
SELECT pg_catalog.setval('public.kept_row_id_seq', 1, false);
SELECT pg_catalog.setval('public.label_id_seq', 2, true);
SELECT pg_catalog.setval('public.mailbox_id_seq', 2, true);
SELECT pg_catalog.setval('public.message_id_seq', 12, true);
SELECT pg_catalog.setval('public.notification_id_seq', 1, false);
SELECT pg_catalog.setval('public.outgoing_file_id_seq', 1, true);
SELECT pg_catalog.setval('public.outgoing_id_seq', 1, true);
SELECT pg_catalog.setval('public.people_group_id_seq', 1, false);
SELECT pg_catalog.setval('public.reminder_id_seq', 1, false);
SELECT pg_catalog.setval('public.routine_id_seq', 1, true);
SELECT pg_catalog.setval('public.rule_id_seq', 1, true);
SELECT pg_catalog.setval('public.rule_version_id_seq', 1, false);
SELECT pg_catalog.setval('public.saved_search_id_seq', 1, true);
SELECT pg_catalog.setval('public.saved_text_id_seq', 1, true);
SELECT pg_catalog.setval('public.server_order_id_seq', 30, true);
SELECT pg_catalog.setval('public.standing_day_id_seq', 1, true);
SELECT pg_catalog.setval('public.to_learn_id_seq', 11, true);
SELECT pg_catalog.setval('public.tray_id_seq', 4, true);
ALTER TABLE ONLY public.account_event
    ADD CONSTRAINT account_event_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.account
    ADD CONSTRAINT account_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.account
    ADD CONSTRAINT account_user_id_address_key UNIQUE (user_id, address);
ALTER TABLE ONLY public.account
    ADD CONSTRAINT account_user_id_code_key UNIQUE (user_id, code);
ALTER TABLE ONLY public.alias_declined
    ADD CONSTRAINT alias_declined_pkey PRIMARY KEY (account_id, address);
ALTER TABLE ONLY public.alias
    ADD CONSTRAINT alias_pkey PRIMARY KEY (account_id, address);
ALTER TABLE ONLY public.app_user
    ADD CONSTRAINT app_user_login_key UNIQUE (login);
ALTER TABLE ONLY public.app_user
    ADD CONSTRAINT app_user_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.arrangement
    ADD CONSTRAINT arrangement_pkey PRIMARY KEY (user_id, place);
ALTER TABLE ONLY public.awaited_ahead
    ADD CONSTRAINT awaited_ahead_pkey PRIMARY KEY (user_id, internet_id);
ALTER TABLE ONLY public.awaited
    ADD CONSTRAINT awaited_pkey PRIMARY KEY (message_id);
ALTER TABLE ONLY public.batch
    ADD CONSTRAINT batch_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.blocked
    ADD CONSTRAINT blocked_pkey PRIMARY KEY (user_id, value);
ALTER TABLE ONLY public.category
    ADD CONSTRAINT category_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.category
    ADD CONSTRAINT category_user_id_name_key UNIQUE (user_id, name);
ALTER TABLE ONLY public.conversation_key
    ADD CONSTRAINT conversation_key_pkey PRIMARY KEY (user_id, key);
ALTER TABLE ONLY public.correspondent
    ADD CONSTRAINT correspondent_pkey PRIMARY KEY (user_id, address);
ALTER TABLE ONLY public.day_mail
    ADD CONSTRAINT day_mail_pkey PRIMARY KEY (user_id);
ALTER TABLE ONLY public.draft_copy
    ADD CONSTRAINT draft_copy_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.filing_record
    ADD CONSTRAINT filing_record_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.flag
    ADD CONSTRAINT flag_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.flyway_schema_history
    ADD CONSTRAINT flyway_schema_history_pk PRIMARY KEY (installed_rank);
ALTER TABLE ONLY public.folder_count
    ADD CONSTRAINT folder_count_pkey PRIMARY KEY (folder_id, account_id);
ALTER TABLE ONLY public.folder
    ADD CONSTRAINT folder_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.folder
    ADD CONSTRAINT folder_user_id_path_key UNIQUE (user_id, path);
ALTER TABLE ONLY public.folder
    ADD CONSTRAINT folder_user_id_use_key UNIQUE (user_id, use);
ALTER TABLE ONLY public.folder_wish
    ADD CONSTRAINT folder_wish_pkey PRIMARY KEY (account_id, folder_id);
ALTER TABLE ONLY public.gone_place
    ADD CONSTRAINT gone_place_pkey PRIMARY KEY (user_id, kind, id);
ALTER TABLE ONLY public.habits
    ADD CONSTRAINT habits_pkey PRIMARY KEY (user_id);
ALTER TABLE ONLY public.kept_as_it_came
    ADD CONSTRAINT kept_as_it_came_pkey PRIMARY KEY (message_id);
ALTER TABLE ONLY public.kept_row
    ADD CONSTRAINT kept_row_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.key_person
    ADD CONSTRAINT key_person_pkey PRIMARY KEY (user_id, value);
ALTER TABLE ONLY public.known_browser
    ADD CONSTRAINT known_browser_pkey PRIMARY KEY (token_hash);
ALTER TABLE ONLY public.label_count
    ADD CONSTRAINT label_count_pkey PRIMARY KEY (label_id, account_id);
ALTER TABLE ONLY public.label
    ADD CONSTRAINT label_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.label
    ADD CONSTRAINT label_user_id_path_key UNIQUE (user_id, path);
ALTER TABLE ONLY public.learnt
    ADD CONSTRAINT learnt_pkey PRIMARY KEY (user_id);
ALTER TABLE ONLY public.left_list
    ADD CONSTRAINT left_list_pkey PRIMARY KEY (user_id, list);
ALTER TABLE ONLY public.login_try
    ADD CONSTRAINT login_try_pkey PRIMARY KEY (key);
ALTER TABLE ONLY public.mailbox
    ADD CONSTRAINT mailbox_account_id_folder_id_key UNIQUE (account_id, folder_id);
ALTER TABLE ONLY public.mailbox
    ADD CONSTRAINT mailbox_account_id_server_name_key UNIQUE (account_id, server_name);
ALTER TABLE ONLY public.mailbox
    ADD CONSTRAINT mailbox_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.message_head
    ADD CONSTRAINT message_head_pkey PRIMARY KEY (message_id);
ALTER TABLE ONLY public.message_label
    ADD CONSTRAINT message_label_pkey PRIMARY KEY (message_id, label_id);
ALTER TABLE ONLY public.message
    ADD CONSTRAINT message_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.message_search
    ADD CONSTRAINT message_search_pkey PRIMARY KEY (message_id);
ALTER TABLE ONLY public.message_source
    ADD CONSTRAINT message_source_pkey PRIMARY KEY (message_id);
ALTER TABLE ONLY public.message_text
    ADD CONSTRAINT message_text_pkey PRIMARY KEY (message_id);
ALTER TABLE ONLY public.muted
    ADD CONSTRAINT muted_pkey PRIMARY KEY (user_id, conversation_id);
ALTER TABLE ONLY public.notification
    ADD CONSTRAINT notification_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.outgoing_file
    ADD CONSTRAINT outgoing_file_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.outgoing
    ADD CONSTRAINT outgoing_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.own_key
    ADD CONSTRAINT own_key_pkey PRIMARY KEY (user_id, usual);
ALTER TABLE ONLY public.own_key
    ADD CONSTRAINT own_key_user_id_chosen_key UNIQUE (user_id, chosen);
ALTER TABLE ONLY public.people_group_member
    ADD CONSTRAINT people_group_member_pkey PRIMARY KEY (group_id, value);
ALTER TABLE ONLY public.people_group
    ADD CONSTRAINT people_group_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.pictures_from
    ADD CONSTRAINT pictures_from_pkey PRIMARY KEY (user_id, address);
ALTER TABLE ONLY public.plain_correspondent
    ADD CONSTRAINT plain_correspondent_pkey PRIMARY KEY (user_id, address);
ALTER TABLE ONLY public.pop_message
    ADD CONSTRAINT pop_message_pkey PRIMARY KEY (account_id, uidl);
ALTER TABLE ONLY public.process
    ADD CONSTRAINT process_pkey PRIMARY KEY (name);
ALTER TABLE ONLY public.put_aside
    ADD CONSTRAINT put_aside_pkey PRIMARY KEY (mailbox_id, name);
ALTER TABLE ONLY public.quiet
    ADD CONSTRAINT quiet_pkey PRIMARY KEY (user_id);
ALTER TABLE ONLY public.recent_search
    ADD CONSTRAINT recent_search_pkey PRIMARY KEY (user_id, words);
ALTER TABLE ONLY public.reminder
    ADD CONSTRAINT reminder_message_id_due_on_due_at_key UNIQUE (message_id, due_on, due_at);
ALTER TABLE ONLY public.reminder
    ADD CONSTRAINT reminder_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.routine
    ADD CONSTRAINT routine_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.routine_step
    ADD CONSTRAINT routine_step_pkey PRIMARY KEY (routine_id, "position");
ALTER TABLE ONLY public.rule_answer
    ADD CONSTRAINT rule_answer_pkey PRIMARY KEY (rule_id, address);
ALTER TABLE ONLY public.rule_effect
    ADD CONSTRAINT rule_effect_pkey PRIMARY KEY (rule_id, "position");
ALTER TABLE ONLY public.rule
    ADD CONSTRAINT rule_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.rule_version
    ADD CONSTRAINT rule_version_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.saved_search
    ADD CONSTRAINT saved_search_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.saved_text
    ADD CONSTRAINT saved_text_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.sent_in_act
    ADD CONSTRAINT sent_in_act_pkey PRIMARY KEY (outgoing_id);
ALTER TABLE ONLY public.server_copy
    ADD CONSTRAINT server_copy_mailbox_id_uid_key UNIQUE (mailbox_id, uid);
ALTER TABLE ONLY public.server_copy
    ADD CONSTRAINT server_copy_pkey PRIMARY KEY (message_id);
ALTER TABLE ONLY public.server_order
    ADD CONSTRAINT server_order_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.server_script
    ADD CONSTRAINT server_script_pkey PRIMARY KEY (account_id);
ALTER TABLE ONLY public.spring_session_attributes
    ADD CONSTRAINT spring_session_attributes_pkey PRIMARY KEY (session_primary_id, attribute_name);
ALTER TABLE ONLY public.spring_session
    ADD CONSTRAINT spring_session_pkey PRIMARY KEY (primary_id);
ALTER TABLE ONLY public.spring_session
    ADD CONSTRAINT spring_session_session_id_key UNIQUE (session_id);
ALTER TABLE ONLY public.standing_day
    ADD CONSTRAINT standing_day_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.to_index
    ADD CONSTRAINT to_index_pkey PRIMARY KEY (message_id);
ALTER TABLE ONLY public.to_learn
    ADD CONSTRAINT to_learn_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.tray
    ADD CONSTRAINT tray_pkey PRIMARY KEY (id);
ALTER TABLE ONLY public.tray_sender
    ADD CONSTRAINT tray_sender_pkey PRIMARY KEY (user_id, value);
ALTER TABLE ONLY public.unfinished_act
    ADD CONSTRAINT unfinished_act_pkey PRIMARY KEY (batch_id);
ALTER TABLE ONLY public.vocabulary
    ADD CONSTRAINT vocabulary_pkey PRIMARY KEY (user_id, word);
ALTER TABLE ONLY public.waits_for
    ADD CONSTRAINT waits_for_pkey PRIMARY KEY (message_id);
CREATE INDEX account_event_of_account ON public.account_event USING btree (account_id, id DESC);
CREATE INDEX awaited_of ON public.awaited USING btree (user_id, listed_from) WHERE (closed_at IS NULL);
CREATE INDEX batch_of_user ON public.batch USING btree (user_id, id DESC);
CREATE INDEX conversation_key_of ON public.conversation_key USING btree (conversation_id);
CREATE INDEX draft_copy_of ON public.draft_copy USING btree (outgoing_id);
CREATE INDEX draft_copy_on ON public.draft_copy USING btree (account_id);
CREATE INDEX filing_record_of_batch ON public.filing_record USING btree (batch_id);
CREATE INDEX filing_record_of_message ON public.filing_record USING btree (message_id, id DESC);
CREATE INDEX filing_record_of_rule ON public.filing_record USING btree (rule_id);
CREATE UNIQUE INDEX flag_name ON public.flag USING btree (user_id, lower(name));
CREATE INDEX flyway_schema_history_s_idx ON public.flyway_schema_history USING btree (success);
CREATE INDEX kept_row_of_batch ON public.kept_row USING btree (batch_id, id);
CREATE INDEX known_browser_of_user ON public.known_browser USING btree (user_id);
CREATE INDEX login_try_by_time ON public.login_try USING btree (last_at);
CREATE INDEX message_done ON public.message USING btree (user_id, done_on) WHERE (done_on IS NOT NULL);
CREATE INDEX message_due ON public.message USING btree (user_id, due_on) WHERE (due_on IS NOT NULL);
CREATE INDEX message_due_hour ON public.message USING btree (due_on) WHERE ((due_at IS NOT NULL) AND flagged);
CREATE INDEX message_flag ON public.message USING btree (flag_id) WHERE (flag_id IS NOT NULL);
CREATE INDEX message_flagged ON public.message USING btree (user_id, received_at DESC, id DESC) WHERE flagged;
CREATE INDEX message_head_by_alias ON public.message_head USING btree (account_id, alias) WHERE (alias IS NOT NULL);
CREATE INDEX message_head_by_internet_id ON public.message_head USING btree (account_id, internet_id);
CREATE INDEX message_head_by_list ON public.message_head USING btree (list_id) WHERE (list_id IS NOT NULL);
CREATE INDEX message_head_by_sender ON public.message_head USING btree (sender_address);
CREATE INDEX message_head_unclaimed ON public.message_head USING gin (unclaimed) WHERE (unclaimed <> '{}'::text[]);
CREATE INDEX message_held ON public.message USING btree (user_id) WHERE held;
CREATE INDEX message_in_category ON public.message USING btree (folder_id, category_id, received_at DESC, id DESC) WHERE (category_id IS NOT NULL);
CREATE INDEX message_in_folder ON public.message USING btree (folder_id, received_at DESC, id DESC);
CREATE INDEX message_in_tickler ON public.message USING btree (user_id, until_on) WHERE (until_on IS NOT NULL);
CREATE INDEX message_in_tray ON public.message USING btree (folder_id, tray_id, received_at DESC, id DESC);
CREATE INDEX message_label_by_label ON public.message_label USING btree (label_id, message_id);
CREATE INDEX message_of_account ON public.message USING btree (account_id, folder_id, received_at DESC, id DESC);
CREATE INDEX message_of_conversation ON public.message USING btree (conversation_id, received_at DESC, id DESC);
CREATE INDEX message_of_user ON public.message USING btree (user_id, received_at DESC, id DESC);
CREATE INDEX message_search_words ON public.message_search USING gin (words);
CREATE INDEX message_unread ON public.message USING btree (folder_id, received_at DESC, id DESC) WHERE unread;
CREATE INDEX message_unread_in_tray ON public.message USING btree (folder_id, account_id, tray_id) WHERE unread;
CREATE INDEX message_with_several_categories ON public.message USING btree (user_id) WHERE (also_categories <> '{}'::bigint[]);
CREATE INDEX message_without_conversation ON public.message USING btree (account_id, id) WHERE (conversation_id IS NULL);
CREATE INDEX notification_of_user ON public.notification USING btree (user_id, id);
CREATE INDEX outgoing_due ON public.outgoing USING btree (due_at) WHERE (state = ANY (ARRAY['WAITING'::text, 'SENT'::text]));
CREATE INDEX outgoing_file_of ON public.outgoing_file USING btree (outgoing_id, id);
CREATE INDEX outgoing_of_user ON public.outgoing USING btree (user_id, id);
CREATE UNIQUE INDEX people_group_by_name ON public.people_group USING btree (user_id, lower(name));
CREATE INDEX pop_message_of_message ON public.pop_message USING btree (message_id) WHERE (message_id IS NOT NULL);
CREATE INDEX reminder_of_user ON public.reminder USING btree (user_id) WHERE (NOT closed);
CREATE INDEX reminder_to_mail ON public.reminder USING btree (id) WHERE (NOT mailed);
CREATE UNIQUE INDEX routine_name ON public.routine USING btree (user_id, lower(name));
CREATE INDEX rule_version_of_rule ON public.rule_version USING btree (rule_id, id DESC);
CREATE UNIQUE INDEX saved_search_name ON public.saved_search USING btree (user_id, lower(name));
CREATE UNIQUE INDEX saved_text_name ON public.saved_text USING btree (user_id, lower(name));
CREATE INDEX sent_in_act_of_batch ON public.sent_in_act USING btree (batch_id);
CREATE INDEX server_copy_stray ON public.server_copy USING btree (account_id) WHERE (mailbox_id IS NULL);
CREATE INDEX server_order_of_batch ON public.server_order USING btree (batch_id) WHERE (batch_id IS NOT NULL);
CREATE INDEX server_order_of_message ON public.server_order USING btree (message_id);
CREATE INDEX server_order_of_other ON public.server_order USING btree (other_id) WHERE (other_id IS NOT NULL);
CREATE INDEX server_order_open ON public.server_order USING btree (account_id, id) WHERE (trouble IS NULL);
CREATE INDEX spring_session_expiry ON public.spring_session USING btree (expiry_time);
CREATE INDEX spring_session_principal ON public.spring_session USING btree (principal_name);
CREATE UNIQUE INDEX standing_day_name ON public.standing_day USING btree (user_id, lower(name));
CREATE INDEX to_index_newest ON public.to_index USING btree (account_id, message_id DESC);
CREATE INDEX to_learn_of ON public.to_learn USING btree (user_id, id);
CREATE INDEX tray_of_user ON public.tray USING btree (user_id, "position");
CREATE INDEX vocabulary_parts ON public.vocabulary USING gin (word public.gin_trgm_ops);
CREATE INDEX waits_for_of_user ON public.waits_for USING btree (user_id);
CREATE OR REPLACE VIEW public.draft_edition AS
 SELECT o.id AS outgoing_id,
    ((((o.version || '/'::text) || count(f.id)) || '/'::text) || COALESCE(max(f.id), (0)::bigint)) AS edition
   FROM (public.outgoing o
     LEFT JOIN public.outgoing_file f ON ((f.outgoing_id = o.id)))
  WHERE ((o.state = ANY (ARRAY['DRAFT'::text, 'REFUSED'::text])) AND o.touched)
  GROUP BY o.id;
CREATE TRIGGER category_gone AFTER DELETE ON public.category FOR EACH ROW EXECUTE FUNCTION public.keep_name_of_place('CATEGORY');
CREATE TRIGGER flag_gone AFTER DELETE ON public.flag FOR EACH ROW EXECUTE FUNCTION public.keep_name_of_place('FLAG');
CREATE TRIGGER folder_gone AFTER DELETE ON public.folder FOR EACH ROW EXECUTE FUNCTION public.keep_name_of_place('FOLDER');
CREATE TRIGGER label_gone AFTER DELETE ON public.label FOR EACH ROW EXECUTE FUNCTION public.keep_name_of_place('LABEL');
CREATE TRIGGER message_taken_out AFTER DELETE ON public.message REFERENCING OLD TABLE AS gone FOR EACH STATEMENT EXECUTE FUNCTION public.take_out_content();
CREATE TRIGGER row_kept AFTER INSERT OR DELETE OR UPDATE ON public.alias FOR EACH ROW EXECUTE FUNCTION public.keep_row();
CREATE TRIGGER row_kept AFTER INSERT OR DELETE OR UPDATE ON public.alias_declined FOR EACH ROW EXECUTE FUNCTION public.keep_row();
CREATE TRIGGER row_kept AFTER INSERT OR DELETE OR UPDATE ON public.arrangement FOR EACH ROW EXECUTE FUNCTION public.keep_row();
CREATE TRIGGER row_kept AFTER INSERT OR DELETE OR UPDATE ON public.awaited FOR EACH ROW EXECUTE FUNCTION public.keep_row();
CREATE TRIGGER row_kept AFTER INSERT OR DELETE OR UPDATE ON public.blocked FOR EACH ROW EXECUTE FUNCTION public.keep_row();
CREATE TRIGGER row_kept AFTER INSERT OR DELETE OR UPDATE ON public.category FOR EACH ROW EXECUTE FUNCTION public.keep_row();
CREATE TRIGGER row_kept AFTER INSERT OR DELETE OR UPDATE ON public.flag FOR EACH ROW EXECUTE FUNCTION public.keep_row();
CREATE TRIGGER row_kept AFTER INSERT OR DELETE OR UPDATE ON public.folder FOR EACH ROW EXECUTE FUNCTION public.keep_row();
CREATE TRIGGER row_kept AFTER INSERT OR DELETE OR UPDATE ON public.key_person FOR EACH ROW EXECUTE FUNCTION public.keep_row();
CREATE TRIGGER row_kept AFTER INSERT OR DELETE OR UPDATE ON public.label FOR EACH ROW EXECUTE FUNCTION public.keep_row();
CREATE TRIGGER row_kept AFTER INSERT OR DELETE OR UPDATE ON public.muted FOR EACH ROW EXECUTE FUNCTION public.keep_row();
CREATE TRIGGER row_kept AFTER DELETE ON public.outgoing FOR EACH ROW EXECUTE FUNCTION public.keep_row();
CREATE TRIGGER row_kept AFTER INSERT OR DELETE OR UPDATE ON public.people_group FOR EACH ROW EXECUTE FUNCTION public.keep_row();
CREATE TRIGGER row_kept AFTER INSERT OR DELETE OR UPDATE ON public.people_group_member FOR EACH ROW EXECUTE FUNCTION public.keep_row();
CREATE TRIGGER row_kept AFTER INSERT OR DELETE OR UPDATE ON public.routine FOR EACH ROW EXECUTE FUNCTION public.keep_row();
CREATE TRIGGER row_kept AFTER INSERT OR DELETE OR UPDATE ON public.routine_step FOR EACH ROW EXECUTE FUNCTION public.keep_row();
CREATE TRIGGER row_kept AFTER INSERT OR DELETE OR UPDATE ON public.rule FOR EACH ROW EXECUTE FUNCTION public.keep_row();
CREATE TRIGGER row_kept AFTER INSERT OR DELETE OR UPDATE ON public.rule_answer FOR EACH ROW EXECUTE FUNCTION public.keep_row();
CREATE TRIGGER row_kept AFTER INSERT OR DELETE OR UPDATE ON public.rule_effect FOR EACH ROW EXECUTE FUNCTION public.keep_row();
CREATE TRIGGER row_kept AFTER INSERT OR DELETE OR UPDATE ON public.rule_version FOR EACH ROW EXECUTE FUNCTION public.keep_row();
CREATE TRIGGER row_kept AFTER INSERT OR DELETE OR UPDATE ON public.saved_search FOR EACH ROW EXECUTE FUNCTION public.keep_row();
CREATE TRIGGER row_kept AFTER INSERT OR DELETE OR UPDATE ON public.saved_text FOR EACH ROW EXECUTE FUNCTION public.keep_row();
CREATE TRIGGER row_kept AFTER INSERT OR DELETE OR UPDATE ON public.standing_day FOR EACH ROW EXECUTE FUNCTION public.keep_row();
CREATE TRIGGER row_kept AFTER INSERT OR DELETE OR UPDATE ON public.tray FOR EACH ROW EXECUTE FUNCTION public.keep_row();
CREATE TRIGGER row_kept AFTER INSERT OR DELETE OR UPDATE ON public.tray_sender FOR EACH ROW EXECUTE FUNCTION public.keep_row();
CREATE TRIGGER tray_gone AFTER DELETE ON public.tray FOR EACH ROW EXECUTE FUNCTION public.keep_name_of_place('TRAY');
CREATE TRIGGER user_taken_out AFTER DELETE ON public.app_user REFERENCING OLD TABLE AS gone FOR EACH STATEMENT EXECUTE FUNCTION public.take_out_conversation_keys();
ALTER TABLE ONLY public.account_event
    ADD CONSTRAINT account_event_account_id_fkey FOREIGN KEY (account_id) REFERENCES public.account(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.account
    ADD CONSTRAINT account_user_id_fkey FOREIGN KEY (user_id) REFERENCES public.app_user(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.alias
    ADD CONSTRAINT alias_account_id_fkey FOREIGN KEY (account_id) REFERENCES public.account(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.alias_declined
    ADD CONSTRAINT alias_declined_account_id_fkey FOREIGN KEY (account_id) REFERENCES public.account(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.alias
    ADD CONSTRAINT alias_retired_to_fkey FOREIGN KEY (retired_to) REFERENCES public.folder(id) ON DELETE SET NULL;
ALTER TABLE ONLY public.app_user
    ADD CONSTRAINT app_user_reminders_at_fkey FOREIGN KEY (reminders_at) REFERENCES public.account(id) ON DELETE SET NULL;
ALTER TABLE ONLY public.arrangement
    ADD CONSTRAINT arrangement_user_id_fkey FOREIGN KEY (user_id) REFERENCES public.app_user(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.awaited_ahead
    ADD CONSTRAINT awaited_ahead_user_id_fkey FOREIGN KEY (user_id) REFERENCES public.app_user(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.awaited
    ADD CONSTRAINT awaited_message_id_fkey FOREIGN KEY (message_id) REFERENCES public.message(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.awaited
    ADD CONSTRAINT awaited_user_id_fkey FOREIGN KEY (user_id) REFERENCES public.app_user(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.batch
    ADD CONSTRAINT batch_user_id_fkey FOREIGN KEY (user_id) REFERENCES public.app_user(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.blocked
    ADD CONSTRAINT blocked_user_id_fkey FOREIGN KEY (user_id) REFERENCES public.app_user(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.category
    ADD CONSTRAINT category_user_id_fkey FOREIGN KEY (user_id) REFERENCES public.app_user(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.correspondent
    ADD CONSTRAINT correspondent_user_id_fkey FOREIGN KEY (user_id) REFERENCES public.app_user(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.day_mail
    ADD CONSTRAINT day_mail_account_id_fkey FOREIGN KEY (account_id) REFERENCES public.account(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.day_mail
    ADD CONSTRAINT day_mail_user_id_fkey FOREIGN KEY (user_id) REFERENCES public.app_user(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.draft_copy
    ADD CONSTRAINT draft_copy_account_id_fkey FOREIGN KEY (account_id) REFERENCES public.account(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.filing_record
    ADD CONSTRAINT filing_record_batch_id_fkey FOREIGN KEY (batch_id) REFERENCES public.batch(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.filing_record
    ADD CONSTRAINT filing_record_message_id_fkey FOREIGN KEY (message_id) REFERENCES public.message(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.filing_record
    ADD CONSTRAINT filing_record_rule_id_fkey FOREIGN KEY (rule_id) REFERENCES public.rule(id) ON DELETE SET NULL;
ALTER TABLE ONLY public.flag
    ADD CONSTRAINT flag_user_id_fkey FOREIGN KEY (user_id) REFERENCES public.app_user(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.folder_count
    ADD CONSTRAINT folder_count_account_id_fkey FOREIGN KEY (account_id) REFERENCES public.account(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.folder_count
    ADD CONSTRAINT folder_count_folder_id_fkey FOREIGN KEY (folder_id) REFERENCES public.folder(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.folder
    ADD CONSTRAINT folder_user_id_fkey FOREIGN KEY (user_id) REFERENCES public.app_user(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.folder_wish
    ADD CONSTRAINT folder_wish_account_id_fkey FOREIGN KEY (account_id) REFERENCES public.account(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.folder_wish
    ADD CONSTRAINT folder_wish_folder_id_fkey FOREIGN KEY (folder_id) REFERENCES public.folder(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.habits
    ADD CONSTRAINT habits_user_id_fkey FOREIGN KEY (user_id) REFERENCES public.app_user(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.kept_as_it_came
    ADD CONSTRAINT kept_as_it_came_message_id_fkey FOREIGN KEY (message_id) REFERENCES public.message(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.kept_row
    ADD CONSTRAINT kept_row_batch_id_fkey FOREIGN KEY (batch_id) REFERENCES public.batch(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.key_person
    ADD CONSTRAINT key_person_user_id_fkey FOREIGN KEY (user_id) REFERENCES public.app_user(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.known_browser
    ADD CONSTRAINT known_browser_user_id_fkey FOREIGN KEY (user_id) REFERENCES public.app_user(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.label_count
    ADD CONSTRAINT label_count_account_id_fkey FOREIGN KEY (account_id) REFERENCES public.account(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.label_count
    ADD CONSTRAINT label_count_label_id_fkey FOREIGN KEY (label_id) REFERENCES public.label(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.label
    ADD CONSTRAINT label_user_id_fkey FOREIGN KEY (user_id) REFERENCES public.app_user(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.learnt
    ADD CONSTRAINT learnt_user_id_fkey FOREIGN KEY (user_id) REFERENCES public.app_user(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.left_list
    ADD CONSTRAINT left_list_user_id_fkey FOREIGN KEY (user_id) REFERENCES public.app_user(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.mailbox
    ADD CONSTRAINT mailbox_account_id_fkey FOREIGN KEY (account_id) REFERENCES public.account(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.mailbox
    ADD CONSTRAINT mailbox_folder_id_fkey FOREIGN KEY (folder_id) REFERENCES public.folder(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.message
    ADD CONSTRAINT message_account_id_fkey FOREIGN KEY (account_id) REFERENCES public.account(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.message
    ADD CONSTRAINT message_category_id_fkey FOREIGN KEY (category_id) REFERENCES public.category(id) ON DELETE SET NULL;
ALTER TABLE ONLY public.message
    ADD CONSTRAINT message_flag_id_fkey FOREIGN KEY (flag_id) REFERENCES public.flag(id) ON DELETE SET NULL;
ALTER TABLE ONLY public.message
    ADD CONSTRAINT message_folder_id_fkey FOREIGN KEY (folder_id) REFERENCES public.folder(id);
ALTER TABLE ONLY public.message_label
    ADD CONSTRAINT message_label_label_id_fkey FOREIGN KEY (label_id) REFERENCES public.label(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.message_label
    ADD CONSTRAINT message_label_message_id_fkey FOREIGN KEY (message_id) REFERENCES public.message(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.message_search
    ADD CONSTRAINT message_search_message_id_fkey FOREIGN KEY (message_id) REFERENCES public.message(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.message
    ADD CONSTRAINT message_tray_id_fkey FOREIGN KEY (tray_id) REFERENCES public.tray(id) ON DELETE SET NULL;
ALTER TABLE ONLY public.muted
    ADD CONSTRAINT muted_user_id_fkey FOREIGN KEY (user_id) REFERENCES public.app_user(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.notification
    ADD CONSTRAINT notification_message_id_fkey FOREIGN KEY (message_id) REFERENCES public.message(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.notification
    ADD CONSTRAINT notification_user_id_fkey FOREIGN KEY (user_id) REFERENCES public.app_user(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.outgoing
    ADD CONSTRAINT outgoing_account_id_fkey FOREIGN KEY (account_id) REFERENCES public.account(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.outgoing
    ADD CONSTRAINT outgoing_answers_fkey FOREIGN KEY (answers) REFERENCES public.message(id) ON DELETE SET NULL;
ALTER TABLE ONLY public.outgoing
    ADD CONSTRAINT outgoing_forwards_fkey FOREIGN KEY (forwards) REFERENCES public.message(id) ON DELETE SET NULL;
ALTER TABLE ONLY public.outgoing
    ADD CONSTRAINT outgoing_user_id_fkey FOREIGN KEY (user_id) REFERENCES public.app_user(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.own_key
    ADD CONSTRAINT own_key_user_id_fkey FOREIGN KEY (user_id) REFERENCES public.app_user(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.people_group_member
    ADD CONSTRAINT people_group_member_group_id_fkey FOREIGN KEY (group_id) REFERENCES public.people_group(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.people_group
    ADD CONSTRAINT people_group_user_id_fkey FOREIGN KEY (user_id) REFERENCES public.app_user(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.pictures_from
    ADD CONSTRAINT pictures_from_user_id_fkey FOREIGN KEY (user_id) REFERENCES public.app_user(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.plain_correspondent
    ADD CONSTRAINT plain_correspondent_user_id_fkey FOREIGN KEY (user_id) REFERENCES public.app_user(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.pop_message
    ADD CONSTRAINT pop_message_account_id_fkey FOREIGN KEY (account_id) REFERENCES public.account(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.pop_message
    ADD CONSTRAINT pop_message_message_id_fkey FOREIGN KEY (message_id) REFERENCES public.message(id) ON DELETE SET NULL;
ALTER TABLE ONLY public.put_aside
    ADD CONSTRAINT put_aside_mailbox_id_fkey FOREIGN KEY (mailbox_id) REFERENCES public.mailbox(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.quiet
    ADD CONSTRAINT quiet_user_id_fkey FOREIGN KEY (user_id) REFERENCES public.app_user(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.recent_search
    ADD CONSTRAINT recent_search_user_id_fkey FOREIGN KEY (user_id) REFERENCES public.app_user(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.reminder
    ADD CONSTRAINT reminder_message_id_fkey FOREIGN KEY (message_id) REFERENCES public.message(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.reminder
    ADD CONSTRAINT reminder_user_id_fkey FOREIGN KEY (user_id) REFERENCES public.app_user(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.routine_step
    ADD CONSTRAINT routine_step_routine_id_fkey FOREIGN KEY (routine_id) REFERENCES public.routine(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.routine
    ADD CONSTRAINT routine_user_id_fkey FOREIGN KEY (user_id) REFERENCES public.app_user(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.rule_answer
    ADD CONSTRAINT rule_answer_rule_id_fkey FOREIGN KEY (rule_id) REFERENCES public.rule(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.rule_effect
    ADD CONSTRAINT rule_effect_category_id_fkey FOREIGN KEY (category_id) REFERENCES public.category(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.rule_effect
    ADD CONSTRAINT rule_effect_flag_id_fkey FOREIGN KEY (flag_id) REFERENCES public.flag(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.rule_effect
    ADD CONSTRAINT rule_effect_folder_id_fkey FOREIGN KEY (folder_id) REFERENCES public.folder(id);
ALTER TABLE ONLY public.rule_effect
    ADD CONSTRAINT rule_effect_label_id_fkey FOREIGN KEY (label_id) REFERENCES public.label(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.rule_effect
    ADD CONSTRAINT rule_effect_rule_id_fkey FOREIGN KEY (rule_id) REFERENCES public.rule(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.rule_effect
    ADD CONSTRAINT rule_effect_tray_id_fkey FOREIGN KEY (tray_id) REFERENCES public.tray(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.rule
    ADD CONSTRAINT rule_user_id_fkey FOREIGN KEY (user_id) REFERENCES public.app_user(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.rule_version
    ADD CONSTRAINT rule_version_rule_id_fkey FOREIGN KEY (rule_id) REFERENCES public.rule(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.saved_search
    ADD CONSTRAINT saved_search_user_id_fkey FOREIGN KEY (user_id) REFERENCES public.app_user(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.saved_text
    ADD CONSTRAINT saved_text_user_id_fkey FOREIGN KEY (user_id) REFERENCES public.app_user(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.sent_in_act
    ADD CONSTRAINT sent_in_act_batch_id_fkey FOREIGN KEY (batch_id) REFERENCES public.batch(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.server_copy
    ADD CONSTRAINT server_copy_mailbox_id_fkey FOREIGN KEY (mailbox_id) REFERENCES public.mailbox(id) ON DELETE SET NULL;
ALTER TABLE ONLY public.server_copy
    ADD CONSTRAINT server_copy_message_id_fkey FOREIGN KEY (message_id) REFERENCES public.message(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.server_order
    ADD CONSTRAINT server_order_account_id_fkey FOREIGN KEY (account_id) REFERENCES public.account(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.server_order
    ADD CONSTRAINT server_order_batch_id_fkey FOREIGN KEY (batch_id) REFERENCES public.batch(id) ON DELETE SET NULL;
ALTER TABLE ONLY public.server_order
    ADD CONSTRAINT server_order_message_id_fkey FOREIGN KEY (message_id) REFERENCES public.message(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.server_order
    ADD CONSTRAINT server_order_other_id_fkey FOREIGN KEY (other_id) REFERENCES public.message(id) ON DELETE SET NULL;
ALTER TABLE ONLY public.server_script
    ADD CONSTRAINT server_script_account_id_fkey FOREIGN KEY (account_id) REFERENCES public.account(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.spring_session_attributes
    ADD CONSTRAINT spring_session_attributes_session_primary_id_fkey FOREIGN KEY (session_primary_id) REFERENCES public.spring_session(primary_id) ON DELETE CASCADE;
ALTER TABLE ONLY public.standing_day
    ADD CONSTRAINT standing_day_user_id_fkey FOREIGN KEY (user_id) REFERENCES public.app_user(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.to_learn
    ADD CONSTRAINT to_learn_user_id_fkey FOREIGN KEY (user_id) REFERENCES public.app_user(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.tray_sender
    ADD CONSTRAINT tray_sender_tray_id_fkey FOREIGN KEY (tray_id) REFERENCES public.tray(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.tray_sender
    ADD CONSTRAINT tray_sender_user_id_fkey FOREIGN KEY (user_id) REFERENCES public.app_user(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.tray
    ADD CONSTRAINT tray_user_id_fkey FOREIGN KEY (user_id) REFERENCES public.app_user(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.unfinished_act
    ADD CONSTRAINT unfinished_act_batch_id_fkey FOREIGN KEY (batch_id) REFERENCES public.batch(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.vocabulary
    ADD CONSTRAINT vocabulary_user_id_fkey FOREIGN KEY (user_id) REFERENCES public.app_user(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.waits_for
    ADD CONSTRAINT waits_for_message_id_fkey FOREIGN KEY (message_id) REFERENCES public.message(id) ON DELETE CASCADE;
ALTER TABLE ONLY public.waits_for
    ADD CONSTRAINT waits_for_user_id_fkey FOREIGN KEY (user_id) REFERENCES public.app_user(id) ON DELETE CASCADE;
