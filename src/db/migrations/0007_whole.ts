import type { Knex } from 'knex'
import { domainOf } from '@/core/clean/domain'
import { domainKey, organisationKeyOf } from '../key'

const BLOCK = 5000

/**
 * Suppressions in every scope, addresses that failed, contacts outside the channels, let through, drafts and looks,
 * sets of picked people, batches undone, records merged.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    alter table organisation add head_count int check (head_count >= 0), add county text, add key bytea;
    create index on organisation (key);
    alter table person add county text, add merged_into bigint references person;
    create index on person (merged_into) where merged_into is not null;
    alter table person add check ((state = 'merged') = (merged_into is not null));
    alter table address add domain_key bytea, add failed_at timestamptz, add failed_entry bigint;
    create index on address (domain_key) where domain_key is not null;
    create index on address using gin (value gin_trgm_ops) where channel in ('email', 'phone');

    alter table entry add address_id bigint;
    alter table entry drop constraint entry_channel_check;
    alter table entry add constraint entry_channel_check check (channel in ('email', 'phone', 'post', 'direct', 'met', 'public reply'));
    alter table entry drop constraint entry_kind_check;
    alter table entry add constraint entry_kind_check check (kind in
      ('created', 'change', 'contact', 'note', 'suppressed', 'lifted', 'listed', 'unlisted', 'released', 'not worked', 'reversed', 'let through', 'withdrawn', 'merged'));
    create index on entry (address_id) where address_id is not null;

    alter table suppression drop constraint suppression_scope_check;
    alter table suppression add constraint suppression_scope_check check (scope in ('person', 'email', 'phone', 'domain', 'post', 'organisation'));
    alter table suppression add organisation_id bigint references organisation;
    create index on suppression (organisation_id) where organisation_id is not null;
    drop view suppression_standing;
    create view suppression_standing as
      select s.* from suppression s where not exists (select 1 from suppression_lift l where l.suppression_id = s.id);
    grant select on suppression_standing to arch_app;

    alter table batch drop constraint batch_state_check;
    alter table batch add constraint batch_state_check check (state in ('mapping', 'queued', 'running', 'done', 'failed', 'undoing', 'undone'));
    alter table batch add undone_at timestamptz, add undone_by text;
    alter table batch_row add undone text check (undone in ('withdrawn', 'put back', 'reversed', 'kept', 'nothing to undo')), add undone_why text;

    alter table round add uses jsonb not null default '{}';
    create table let_through (
      round_id bigint not null references round,
      person_id bigint not null references person,
      channel text not null check (channel in ('email', 'phone', 'post')),
      reason text not null check (length(btrim(reason)) > 0),
      actor_id text not null,
      at timestamptz not null,
      taken_back_at timestamptz,
      taken_back_by text,
      primary key (round_id, person_id, channel)
    );
    create table pick_set (id bigint generated always as identity primary key, people bigint[] not null, made_by text not null, made_at timestamptz not null);
    create table list_draft (
      list_id bigint not null references list,
      user_id text not null references "user" on delete cascade,
      based_on int not null,
      lines jsonb not null,
      at timestamptz not null,
      primary key (list_id, user_id)
    );
    create table list_look (
      list_id bigint not null references list,
      user_id text not null references "user" on delete cascade,
      before bytea, before_at timestamptz,
      latest bytea not null, latest_at timestamptz not null,
      primary key (list_id, user_id)
    );
    create table list_in_hand (user_id text primary key references "user" on delete cascade, list_id bigint not null references list);
    create table sign_in_failure (key bytea not null, at timestamptz not null default clock_timestamp());
    create index on sign_in_failure (key, at);

    grant select, insert, update on let_through to arch_app;
    grant select, insert on pick_set to arch_app;
    grant select, insert, update, delete on list_draft, list_look, list_in_hand, sign_in_failure to arch_app;

    -- Which of the results of a contact tell whether an address works; the words are those of core/rounds/results.ts.
    create function tells(result text) returns boolean language sql immutable as $$
      select case when result in ('bounced', 'returned', 'wrong number') then true
        when result in ('spoke', 'voicemail', 'meeting set', 'not interested', 'opened', 'replied', 'asked us to stop') then false end $$;

    -- Facts of people and of addresses move in the transaction of the entry that moves them, whoever writes it.
    create or replace function keep_facts() returns trigger language plpgsql as $$
    declare again bigint[];
    begin
      insert into facts as f (person_id, last_at, last_channel, last_result, last_by, attempts)
      select distinct on (person_id) person_id, at, channel, result, actor_id, count(*) over (partition by person_id)
      from fresh where kind = 'contact' order by person_id, at desc, id desc
      on conflict (person_id) do update set
        attempts = f.attempts + excluded.attempts,
        last_channel = case when excluded.last_at >= f.last_at then excluded.last_channel else f.last_channel end,
        last_result = case when excluded.last_at >= f.last_at then excluded.last_result else f.last_result end,
        last_by = case when excluded.last_at >= f.last_at then excluded.last_by else f.last_by end,
        last_at = greatest(f.last_at, excluded.last_at);
      if exists (select 1 from fresh where kind = 'contact' and address_id is not null and tells(result) is not null) then
        perform keep_failures((select array_agg(distinct address_id) from fresh where kind = 'contact' and tells(result) is not null and address_id is not null));
      end if;
      select array_agg(distinct e.person_id) into again from fresh f join entry e on e.id = f.reverses_id where f.kind = 'reversed' and e.kind = 'contact';
      if again is not null then perform refigure(again); end if;
      return null;
    end $$;

    -- An address has failed when the latest contact with it that tells says so.
    create function keep_failures(addresses bigint[]) returns void language sql as $$
      update address a set failed_at = t.failed_at, failed_entry = t.entry
      from (
        select a.id, case when tells(e.result) then e.at end as failed_at, case when tells(e.result) then e.id end as entry
        from unnest(addresses) a(id) left join lateral (
          select e.id, e.at, e.result from entry e
          where e.address_id = a.id and e.kind = 'contact' and tells(e.result) is not null and not exists (select 1 from entry r where r.reverses_id = e.id)
          order by e.at desc, e.id desc limit 1) e on true) t
      where a.id = t.id and (a.failed_at is distinct from t.failed_at or a.failed_entry is distinct from t.entry) $$;

    -- Works out anew the facts of some people and their addresses from the ledger, those of records merged into them included.
    create function refigure(people bigint[]) returns void language plpgsql as $$
    begin
      delete from facts where person_id = any(people);
      insert into facts (person_id, last_at, last_channel, last_result, last_by, attempts)
      select distinct on (root) root, at, channel, result, actor_id, count(*) over (partition by root)
      from (select coalesce(p.merged_into, p.id) as root, e.* from entry e join person p on p.id = e.person_id
            where (p.id = any(people) or p.merged_into = any(people)) and e.kind = 'contact'
              and not exists (select 1 from entry r where r.reverses_id = e.id)) own
      where root = any(people) order by root, at desc, id desc;
      perform keep_failures((select array_agg(id) from address where person_id = any(people)));
    end $$;
    grant delete on facts to arch_app;

    -- Never let through what the person themselves or the law closed: refused here, whatever the application thinks.
    create function final_suppression(who bigint, way text, at_time timestamptz) returns boolean language sql stable as $$
      select exists (
        select 1 from suppression_standing s
        where s.reason in ('opt-out', 'complaint', 'register') and way = any(s.channels) and s.since <= at_time and (s.until is null or s.until > at_time)
          and (s.person_id = who or s.person_id in (select id from person where merged_into = who)
            or s.organisation_id = (select organisation_id from person where id = who)
            or exists (select 1 from suppression_key k join person p on p.id = who join organisation o on o.id = p.organisation_id where k.suppression_id = s.id and k.key = o.key))
        union all
        -- Every address of the channel is closed for good by its own key.
        select 1 from (select bool_and(exists (
            select 1 from suppression_key k join suppression_standing s on s.id = k.suppression_id
            where k.key in (a.key, a.domain_key) and s.reason in ('opt-out', 'complaint', 'register') and way = any(s.channels)
              and s.since <= at_time and (s.until is null or s.until > at_time))) as closed
          from address a where a.person_id = who and a.channel = way and a.usable) every where every.closed) $$;
    create function refuse_let_through() returns trigger language plpgsql as $$
    begin
      if new.taken_back_at is null and final_suppression(new.person_id, new.channel, new.at) then
        raise exception 'an opt-out, a complaint or a legal register cannot be let through' using errcode = 'restrict_violation';
      end if;
      return new;
    end $$;
    create trigger refuse_let_through before insert or update on let_through for each row execute function refuse_let_through();
    create function refuse_late_let_through() returns trigger language plpgsql as $$
    begin
      if exists (select 1 from round where id = new.round_id and released_at is not null) then
        raise exception 'the round is released and frozen' using errcode = 'restrict_violation';
      end if;
      return new;
    end $$;
    create trigger refuse_late before insert or update on let_through for each row execute function refuse_late_let_through();

    -- Rounds are marked whole when they are released; merging moves seats of rounds to the record that stays.
    create function mark_round() returns trigger language plpgsql security definer set search_path = public, pg_temp as $$
    begin
      if new.released_at is not null and old.released_at is null then
        insert into change_log (what, ids) values ('round', array[new.id]);
        perform pg_notify('arch_change', '');
      end if;
      perform pg_notify('arch_news', json_build_object('round', new.id, 'list', new.list_id)::text);
      return null;
    end $$;
    create trigger mark_round after update on round for each row execute function mark_round();
    create function mark_merge() returns trigger language plpgsql security definer set search_path = public, pg_temp as $$
    begin
      if new.merged_into is distinct from old.merged_into then
        insert into change_log (what, ids) select 'round', array_agg(distinct round_id) from round_member where person_id in (new.id, new.merged_into) having count(*) > 0;
      end if;
      return null;
    end $$;
    create trigger mark_merge after update on person for each row when (new.merged_into is distinct from old.merged_into) execute function mark_merge();

    -- Open pages are told when somebody saves a list.
    create function tell_edition() returns trigger language plpgsql as $$
    begin
      perform pg_notify('arch_news', json_build_object('list', new.list_id, 'edition', new.number, 'by', new.saved_by)::text);
      return null;
    end $$;
    create trigger tell_edition after insert on edition for each row execute function tell_edition();
  `)
  await knex.raw('analyze')
  await fillKeys(knex)
  await knex.raw(`
    -- Contacts made before addresses were told apart went to the first address of their channel.
    update entry e set address_id = a.id
    from (select distinct on (person_id, channel) id, person_id, channel from address order by person_id, channel, position, id) a
    where e.kind = 'contact' and e.person_id = a.person_id and e.channel = a.channel;
    select keep_failures((select array_agg(distinct address_id) from entry where kind = 'contact' and address_id is not null and tells(result) is not null));
  `)
}

/** Keys of organisations and of the domains of e-mail addresses, which only the application's secret can make. */
async function fillKeys(knex: Knex): Promise<void> {
  const set = async (table: 'organisation' | 'address', column: 'key' | 'domain_key', rows: { id: number; key: Buffer }[]) => {
    for (let i = 0; i < rows.length; i += BLOCK) {
      const block = rows.slice(i, i + BLOCK)
      await knex.raw(`update ?? t set ?? = k.key from unnest(?::bigint[], ?::bytea[]) as k(id, key) where t.id = k.id`, [
        table,
        column,
        block.map((r) => r.id),
        block.map((r) => r.key),
      ])
    }
  }
  const organisations: { id: number; name_key: string }[] = await knex('organisation').select('id', 'name_key')
  await set(
    'organisation',
    'key',
    organisations.map((o) => ({ id: o.id, key: organisationKeyOf(o.name_key) })),
  )
  const emails: { id: number; value: string }[] = await knex('address').where({ channel: 'email', usable: true }).select('id', 'value')
  await set(
    'address',
    'domain_key',
    emails.map((a) => ({ id: a.id, key: domainKey(domainOf(a.value)) })),
  )
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    drop trigger tell_edition on edition; drop trigger mark_merge on person; drop trigger mark_round on round;
    drop function tell_edition(); drop function mark_merge(); drop function mark_round();
    drop table sign_in_failure, list_in_hand, list_look, list_draft, pick_set, let_through;
    drop function refuse_let_through(); drop function refuse_late_let_through(); drop function final_suppression(bigint, text, timestamptz);
    create or replace function keep_facts() returns trigger language plpgsql as $$
    begin
      insert into facts as f (person_id, last_at, last_channel, last_result, last_by, attempts)
      select distinct on (person_id) person_id, at, channel, result, actor_id, count(*) over (partition by person_id)
      from fresh where kind = 'contact' order by person_id, at desc, id desc
      on conflict (person_id) do update set
        attempts = f.attempts + excluded.attempts,
        last_channel = case when excluded.last_at >= f.last_at then excluded.last_channel else f.last_channel end,
        last_result = case when excluded.last_at >= f.last_at then excluded.last_result else f.last_result end,
        last_by = case when excluded.last_at >= f.last_at then excluded.last_by else f.last_by end,
        last_at = greatest(f.last_at, excluded.last_at);
      return null;
    end $$;
    drop function refigure(bigint[]); drop function keep_failures(bigint[]); drop function tells(text);
    alter table round drop uses;
    alter table batch_row drop undone, drop undone_why;
    alter table batch drop undone_at, drop undone_by;
    drop view suppression_standing;
    alter table suppression drop organisation_id;
    create view suppression_standing as
      select s.* from suppression s where not exists (select 1 from suppression_lift l where l.suppression_id = s.id);
    grant select on suppression_standing to arch_app;
    alter table entry drop address_id;
    alter table address drop domain_key, drop failed_at, drop failed_entry;
    alter table person drop county, drop merged_into;
    alter table organisation drop head_count, drop county, drop key;
  `)
}
