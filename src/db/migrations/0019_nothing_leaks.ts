import type { Knex } from 'knex'
import { foldAnew, oneFormOfDomains } from '../spelled-anew'

/**
 * What a suppression touches stands in one view. The second key of a postal address has a column of its own. A lift can be taken
 * back, several lifts are one act. The database refuses what the application must not do even by mistake: a let-through dated
 * back, another raw row, a contact to come of a closed round.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    alter table address add post_key bytea, add post_key_3 bytea;
    update address set post_key = domain_key, domain_key = null where channel = 'post' and domain_key is not null;
    create index on address (post_key) where post_key is not null;
    create index on address (post_key_3) where post_key_3 is not null;

    -- Lifts: each by an act that may lift many, and that can be taken back.
    create table lifting (
      id bigint generated always as identity primary key,
      at timestamptz not null,
      word text not null check (length(btrim(word)) > 0),
      actor_id text not null,
      -- Of those no longer on a register: which, by which version, and how many of how many.
      register text, version date, lifted int not null, standing int
    );
    alter table suppression_lift add id bigint generated always as identity, add lifting_id bigint references lifting;
    alter table suppression_lift drop constraint suppression_lift_pkey, add primary key (id);
    create index on suppression_lift (suppression_id);
    create index on suppression_lift (lifting_id) where lifting_id is not null;
    create table suppression_lift_back (
      lift_id bigint primary key references suppression_lift,
      at timestamptz not null,
      word text not null,
      actor_id text not null
    );
    create view suppression_lifted as
      select l.* from suppression_lift l where not exists (select 1 from suppression_lift_back b where b.lift_id = l.id);
    create or replace view suppression_standing as
      select s.* from suppression s where not exists (select 1 from suppression_lifted l where l.suppression_id = s.id);
    create trigger pass_gate before insert on suppression_lift_back for each statement execute function pass_gate();
    create function mark_lift_back() returns trigger language plpgsql security definer set search_path = public, pg_temp as $$
    declare changed bigint[];
    begin
      select array_agg(distinct l.suppression_id) from fresh f join suppression_lift l on l.id = f.lift_id into changed;
      if changed is null then return null; end if;
      insert into change_log (what, ids) values ('suppression', case when cardinality(changed) > 5000 then null else changed end);
      perform pg_notify('arch_change', '');
      return null;
    end $$;
    create trigger mark_insert after insert on suppression_lift_back referencing new table as fresh for each statement execute function mark_lift_back();
    grant select, insert on lifting, suppression_lift_back to arch_app;
    grant select on suppression_lifted to arch_app;

    -- What each suppression touches, whether or not it still stands: a person as a whole (address_id null), or one address or
    -- number of somebody. Whoever asks joins suppression_standing and compares since and until with the moment.
    create view suppression_touch as
      select s.id as suppression_id, s.person_id, null::bigint as address_id from suppression s where s.person_id is not null
      union all select k.suppression_id, a.person_id, a.id from suppression_key k join address a on a.key = k.key
      union all select k.suppression_id, a.person_id, a.id from suppression_key k join address a on a.domain_key = k.key
      union all select k.suppression_id, a.person_id, a.id from suppression_key k join address a on a.post_key = k.key
        where not exists (select 1 from suppression_key v where v.suppression_id = k.suppression_id and v.key = a.key)
      union all select k.suppression_id, a.person_id, a.id from suppression_key k join address a on a.post_key_3 = k.key
        where not exists (select 1 from suppression_key v where v.suppression_id = k.suppression_id and v.key in (a.key, a.post_key))
      union all select s.id, p.id, null from suppression s join person p on p.organisation_id = s.organisation_id
      union all select k.suppression_id, p.id, null from suppression_key k join organisation o on o.key = k.key join person p on p.organisation_id = o.id
        where not exists (select 1 from suppression s where s.id = k.suppression_id and s.organisation_id = o.id);
    grant select on suppression_touch to arch_app;

    create or replace function final_suppression(who bigint, way text, at_time timestamptz) returns boolean language sql stable as $$
      with final as (
        select t.address_id from suppression_touch t join suppression_standing s on s.id = t.suppression_id
        where t.person_id in (select who union select id from person where merged_into = who)
          and s.reason in ('opt-out', 'complaint', 'register') and way = any(s.channels) and s.since <= at_time and (s.until is null or s.until > at_time))
      select exists (select 1 from final where address_id is null)
        or coalesce((select bool_and(a.id in (select address_id from final where address_id is not null)) from address a where a.person_id = who and a.channel = way and a.usable), false) $$;

    -- A let-through is of today: not before its round, nor before the day of the newest entry, whatever clock the application goes
    -- by; and what is final is looked up as of the newest entry, too.
    create or replace function refuse_let_through() returns trigger language plpgsql as $$
    declare newest timestamptz := (select recorded_at from entry order by id desc limit 1);
    begin
      if new.taken_back_at is not null then return new; end if;
      if new.at < (select started_at from round where id = new.round_id) or new.at < date_trunc('day', newest) then
        raise exception 'a let-through cannot be dated back' using errcode = 'check_violation';
      end if;
      if final_suppression(new.person_id, new.channel, new.at) or final_suppression(new.person_id, new.channel, greatest(new.at, newest)) then
        raise exception 'an opt-out, a complaint or a legal register cannot be let through' using errcode = 'restrict_violation';
      end if;
      return new;
    end $$;

    alter table entry drop constraint entry_kind_check;
    alter table entry add constraint entry_kind_check check (kind in
      ('created', 'change', 'contact', 'note', 'suppressed', 'lifted', 'listed', 'unlisted', 'released', 'not worked', 'reversed', 'let through', 'withdrawn', 'merged', 'parted', 'exported'));

    -- Whether others of the same organisation have a number is told anew whenever one comes, goes, or somebody changes organisation.
    create function refresh_shared(keys bytea[]) returns void language sql as $$
      update address a set shared = s.shared
      from (select a.id, exists (
              select 1 from address o join person p on p.id = o.person_id
              where o.key = a.key and o.channel = 'phone' and o.person_id <> a.person_id and p.state = 'live' and p.organisation_id = me.organisation_id) as shared
            from address a join person me on me.id = a.person_id where a.channel = 'phone' and a.key = any(keys)) s
      where a.id = s.id and a.shared is distinct from s.shared $$;
    create or replace function keep_shared() returns trigger language plpgsql as $$
    begin
      perform refresh_shared((select array_agg(distinct key) from fresh where channel = 'phone'));
      return null;
    end $$;
    create trigger keep_shared_gone after delete on address referencing old table as fresh for each statement execute function keep_shared();
    create function keep_shared_moved() returns trigger language plpgsql as $$
    begin
      if exists (select 1 from fresh f join before b on b.id = f.id where (f.organisation_id, f.state) is distinct from (b.organisation_id, b.state)) then
        perform refresh_shared((select array_agg(distinct a.key) from fresh f join before b on b.id = f.id join address a on a.person_id = f.id and a.channel = 'phone'
          where (f.organisation_id, f.state) is distinct from (b.organisation_id, b.state)));
      end if;
      return null;
    end $$;
    create trigger keep_shared_moved after update on person referencing old table as before new table as fresh for each statement execute function keep_shared_moved();
    select refresh_shared((select array_agg(distinct key) from address where channel = 'phone' and shared));

    -- An address that was taken away and comes back is the same one: what contacts have shown of it is known again.
    create table address_once (id bigint primary key, person_id bigint not null, channel text not null, key bytea not null);
    create index on address_once (person_id, channel, key);
    create function keep_once() returns trigger language plpgsql security definer set search_path = public, pg_temp as $$
    begin
      insert into address_once (id, person_id, channel, key) values (old.id, old.person_id, old.channel, old.key) on conflict do nothing;
      return null;
    end $$;
    create trigger keep_once after delete on address for each row execute function keep_once();
    create function come_back() returns trigger language plpgsql security definer set search_path = public, pg_temp as $$
    declare known bigint;
    begin
      delete from address_once o where o.id = (select id from address_once where person_id = new.person_id and channel = new.channel and key = new.key order by id limit 1) returning o.id into known;
      if known is null or exists (select 1 from address where id = known) then return new; end if;
      new.id := known;
      select case when tells(e.result) then e.at end, case when tells(e.result) then e.id end, e.result into new.failed_at, new.failed_entry, new.told
      from entry e where e.address_id = known and e.kind = 'contact' and tells(e.result) is not null and not exists (select 1 from entry r where r.reverses_id = e.id)
      order by e.at desc, e.id desc limit 1;
      return new;
    end $$;
    create trigger come_back before insert on address for each row execute function come_back();

    -- Other spellings of somebody's name that files brought and that did not take the better one's place; they are known by them again.
    create table name_variant (
      person_id bigint not null references person,
      name_key text not null,
      name text not null,
      batch_id bigint not null,
      at timestamptz not null,
      primary key (person_id, name_key)
    );
    create index on name_variant (name_key);
    create index on name_variant (batch_id);
    grant select, insert, delete on name_variant to arch_app;

    -- In which lists sets of picked records and areas stand: whoever sees the list may read them, and nobody else by their number.
    create table line_part (
      list_id bigint not null references list,
      part text not null check (part in ('set', 'area')),
      part_id bigint not null,
      primary key (list_id, part, part_id)
    );
    create index on line_part (part, part_id);
    grant select, insert on line_part to arch_app;
    insert into line_part
      select distinct s.list_id, 'set', (line #>> '{set,id}')::bigint
      from (select list_id, lines from edition union all select list_id, lines from list_proposal union all select list_id, lines from list_draft) s, jsonb_array_elements(s.lines) line
      where line ->> 'verb' = 'pick'
      union select distinct s.list_id, 'area', (area ->> 'id')::bigint
      from (select list_id, lines from edition union all select list_id, lines from list_proposal union all select list_id, lines from list_draft) s, jsonb_array_elements(s.lines) line, jsonb_array_elements(line #> '{criterion,areas}') area
      where line #>> '{criterion,kind}' = 'area';

    -- What an enquiry is about, and the batch it brought, belong to a list where it is about one, and do not carry its name about.
    alter table enquiry add list_id bigint references list;
    alter table batch add list_id bigint references list;
    update enquiry e set list_id = l.id from list l where l.id = (e.asked #>> '{of,list}')::bigint;
    update batch b set list_id = e.list_id, file_name = 'Gaps filled ' || e.id || '.jsonl' from enquiry e where e.batch_id = b.id and e.list_id is not null;

    -- Whoever left stays named in what they did, and signs in no more. That somebody signed out, left or has another post is told at
    -- once to whatever is open for them.
    alter table "user" add left_at timestamptz;
    grant update (owner_id) on area to arch_app;
    alter table sign_in_failure add id bigint generated always as identity;
    create function refuse_session() returns trigger language plpgsql as $$
    begin
      perform 1 from "user" where id = new."userId" and left_at is null for share;
      if not found then raise exception 'this person has left' using errcode = 'restrict_violation'; end if;
      return new;
    end $$;
    create trigger refuse_session before insert on session for each row execute function refuse_session();
    -- Nor is anything left to somebody who is gone by the time it is theirs.
    create function refuse_gone() returns trigger language plpgsql as $$
    declare gone timestamptz;
    begin
      -- Waits for whoever is being removed just now.
      select left_at into gone from "user" where id = new.owner_id for share;
      if gone is not null then raise exception 'this person has left' using errcode = 'restrict_violation'; end if;
      return new;
    end $$;
    create trigger refuse_gone before insert or update of owner_id on list for each row execute function refuse_gone();
    create trigger refuse_gone before insert or update of owner_id on area for each row execute function refuse_gone();
    create function tell_session() returns trigger language plpgsql as $$
    begin
      perform pg_notify('arch_news', json_build_object('session', case tg_table_name when 'session' then to_jsonb(old) ->> 'userId' else to_jsonb(old) ->> 'id' end)::text);
      return null;
    end $$;
    create trigger tell_session after delete on session for each row execute function tell_session();
    create trigger tell_session after update on "user" for each row when ((old.post, old.left_at) is distinct from (new.post, new.left_at)) execute function tell_session();

    -- A trial brings rows in and is given up: it passes no gate, and what it wrote cannot be committed.
    create or replace function pass_gate() returns trigger language plpgsql as $$
    begin
      if current_setting('arch.trial', true) is distinct from 'on' then perform pg_advisory_xact_lock_shared(hashtext('suppressions')); end if;
      return null;
    end $$;
    create function refuse_trial() returns trigger language plpgsql as $$
    begin
      raise exception 'a trial is not kept' using errcode = 'restrict_violation';
    end $$;
    create constraint trigger refuse_trial after insert on suppression deferrable initially deferred for each row
      when (current_setting('arch.trial', true) = 'on') execute function refuse_trial();

    -- What somebody wrote on many people at once is one act, and is undone as one.
    create table act (
      id bigint generated always as identity primary key,
      kind text not null check (kind in ('tag', 'untag', 'holder', 'note')),
      text text not null,
      actor_id text not null,
      at timestamptz not null,
      undone_at timestamptz, undone_by text
    );
    grant select, insert on act to arch_app;
    grant update (undone_at, undone_by) on act to arch_app;
    alter table entry add act_id bigint;
    create index on entry (act_id) where act_id is not null;

    -- A row as it came is written once; what becomes of it is written beside it.
    revoke update on batch_row from arch_app;
    grant update (outcome, reason, person_id, premises_id, candidates, undone, undone_why) on batch_row to arch_app;

    -- What a closed round made of its contacts to come stays.
    create function refuse_reopened() returns trigger language plpgsql as $$
    begin
      if exists (select 1 from fresh f join round r on r.id = f.round_id where r.closed_at is not null) then
        raise exception 'the round is closed' using errcode = 'restrict_violation';
      end if;
      return null;
    end $$;
    create trigger refuse_reopened after update on contact_to_come referencing new table as fresh for each statement execute function refuse_reopened();
    create trigger refuse_late after insert on contact_to_come referencing new table as fresh for each statement execute function refuse_late();
  `)
  await oneFormOfDomains(knex)
  await foldAnew(knex)
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    drop trigger refuse_late on contact_to_come; drop trigger refuse_reopened on contact_to_come; drop function refuse_reopened();
    grant update on batch_row to arch_app;
    alter table entry drop column act_id;
    drop table act;
    drop table line_part;
    drop trigger refuse_trial on suppression; drop function refuse_trial();
    create or replace function pass_gate() returns trigger language plpgsql as $$
    begin
      perform pg_advisory_xact_lock_shared(hashtext('suppressions'));
      return null;
    end $$;
    drop trigger tell_session on "user"; drop trigger tell_session on session; drop trigger refuse_session on session;
    drop function tell_session(); drop function refuse_session();
    drop trigger refuse_gone on list; drop trigger refuse_gone on area; drop function refuse_gone();
    alter table sign_in_failure drop column id;
    alter table "user" drop column left_at;
    revoke update (owner_id) on area from arch_app;
    alter table enquiry drop column list_id;
    alter table batch drop column list_id;
    drop table name_variant;
    drop trigger keep_shared_moved on person; drop trigger keep_shared_gone on address;
    drop function keep_shared_moved();
    create or replace function keep_shared() returns trigger language plpgsql as $$
    begin
      update address a set shared = true from (select distinct key from fresh where channel = 'phone') f
      where a.key = f.key and a.channel = 'phone' and not a.shared and exists (
        select 1 from address o join person p on p.id = o.person_id join person me on me.id = a.person_id
        where o.key = a.key and o.channel = 'phone' and o.person_id <> a.person_id and p.organisation_id = me.organisation_id);
      return null;
    end $$;
    drop function refresh_shared(bytea[]);
    drop trigger come_back on address; drop trigger keep_once on address;
    drop function come_back(); drop function keep_once();
    drop table address_once;
    alter table entry drop constraint entry_kind_check;
    alter table entry add constraint entry_kind_check check (kind in
      ('created', 'change', 'contact', 'note', 'suppressed', 'lifted', 'listed', 'unlisted', 'released', 'not worked', 'reversed', 'let through', 'withdrawn', 'merged', 'parted')) not valid;
    create or replace function refuse_let_through() returns trigger language plpgsql as $$
    begin
      if new.taken_back_at is null and final_suppression(new.person_id, new.channel, new.at) then
        raise exception 'an opt-out, a complaint or a legal register cannot be let through' using errcode = 'restrict_violation';
      end if;
      return new;
    end $$;
    create or replace function final_suppression(who bigint, way text, at_time timestamptz) returns boolean language sql stable as $$
      select exists (
        select 1 from suppression_standing s
        where s.reason in ('opt-out', 'complaint', 'register') and way = any(s.channels) and s.since <= at_time and (s.until is null or s.until > at_time)
          and (s.person_id = who or s.person_id in (select id from person where merged_into = who)
            or s.organisation_id = (select organisation_id from person where id = who)
            or exists (select 1 from suppression_key k join person p on p.id = who join organisation o on o.id = p.organisation_id where k.suppression_id = s.id and k.key = o.key))
        union all
        select 1 from (select bool_and(exists (
            select 1 from suppression_key k join suppression_standing s on s.id = k.suppression_id
            where k.key in (a.key, a.domain_key) and s.reason in ('opt-out', 'complaint', 'register') and way = any(s.channels)
              and s.since <= at_time and (s.until is null or s.until > at_time))) as closed
          from address a where a.person_id = who and a.channel = way and a.usable) every where every.closed) $$;
    drop view suppression_touch;
    drop trigger mark_insert on suppression_lift_back; drop function mark_lift_back();
    create or replace view suppression_standing as
      select s.* from suppression s where not exists (select 1 from suppression_lift l where l.suppression_id = s.id);
    drop view suppression_lifted;
    -- A lift that was taken back holds no longer, and the older shape has no other way to say so.
    delete from suppression_lift l using suppression_lift_back b where b.lift_id = l.id;
    delete from suppression_lift l using suppression_lift o where o.suppression_id = l.suppression_id and o.id > l.id;
    drop table suppression_lift_back cascade;
    alter table suppression_lift drop constraint suppression_lift_pkey, drop column id, drop column lifting_id, add primary key (suppression_id);
    drop table lifting;
    update address set domain_key = post_key where channel = 'post' and post_key is not null;
    alter table address drop column post_key, drop column post_key_3;
  `)
}
