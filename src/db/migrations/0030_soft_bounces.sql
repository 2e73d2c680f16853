-- An email that could not be delivered for now shows nothing by itself; several of them since anything last arrived do.
alter table address add soft timestamptz[];
create index on address (person_id) where soft is not null;
create function softly(result text) returns boolean language sql immutable as $$ select result = 'soft bounced' $$;

-- An address with those that are the same of records merged with its own: what a contact shows of one holds for all of them.
create function same_addresses(of_address bigint) returns table (id bigint) language sql stable as $$
  select b.id from address a join person p on p.id = a.person_id join address b on b.channel = a.channel and b.key = a.key join person q on q.id = b.person_id
  where a.id = of_address and coalesce(q.merged_into, q.id) = coalesce(p.merged_into, p.id) $$;

-- When some addresses, which are the same, bounced for now after the last contact that arrived there: the latest twenty, in their order; null where never.
create function soft_bounces(addresses bigint[]) returns timestamptz[] language sql stable as $$
  select array_agg(at order by at) from (
    select e.at from entry e
    where e.address_id = any(addresses) and e.kind = 'contact' and e.channel = 'email' and softly(e.result) and not exists (select 1 from entry r where r.reverses_id = e.id)
      and not exists (select 1 from entry g where g.address_id = any(addresses) and g.kind = 'contact' and not tells(g.result) and g.at >= e.at
        and not exists (select 1 from entry r where r.reverses_id = g.id))
    order by e.at desc, e.id desc limit 20) latest $$;

-- An address has failed when the latest contact with it that tells says so.
create or replace function keep_failures(addresses bigint[]) returns void language sql as $$
  update address a set failed_at = t.failed_at, failed_entry = t.entry, told = t.result, soft = t.soft
  from (
    select a.id, case when tells(e.result) then e.at end as failed_at, case when tells(e.result) then e.id end as entry, e.result, soft_bounces(a.same) as soft
    from (
      select of.id, (select array_agg(s.id) from same_addresses(of.id) s) as same
      from (select distinct s.id from unnest(addresses) u(id) cross join lateral same_addresses(u.id) s) of) a
    left join lateral (
      select e.id, e.at, e.result from entry e
      where e.address_id = any(a.same) and e.kind = 'contact' and tells(e.result) is not null and not exists (select 1 from entry r where r.reverses_id = e.id)
      order by e.at desc, e.id desc limit 1) e on true) t
  where a.id = t.id and (a.failed_at is distinct from t.failed_at or a.failed_entry is distinct from t.entry or a.told is distinct from t.result or a.soft is distinct from t.soft) $$;

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
  if exists (select 1 from fresh where kind = 'contact' and address_id is not null and (tells(result) is not null or softly(result))) then
    perform keep_failures((select array_agg(distinct address_id) from fresh where kind = 'contact' and (tells(result) is not null or softly(result)) and address_id is not null));
  end if;
  select array_agg(distinct e.person_id) into again from fresh f join entry e on e.id = f.reverses_id where f.kind = 'reversed' and e.kind = 'contact';
  if again is not null then perform refigure(again); end if;
  return null;
end $$;

-- An address that comes back is the same one: what its contacts have shown is known again.
create or replace function come_back() returns trigger language plpgsql security definer set search_path = public, pg_temp as $$
declare known bigint;
begin
  delete from address_once o where o.id = (select id from address_once where person_id = new.person_id and channel = new.channel and key = new.key order by id limit 1) returning o.id into known;
  if known is null or exists (select 1 from address where id = known) then return new; end if;
  new.id := known;
  select case when tells(e.result) then e.at end, case when tells(e.result) then e.id end, e.result into new.failed_at, new.failed_entry, new.told
  from entry e where e.address_id = known and e.kind = 'contact' and tells(e.result) is not null and not exists (select 1 from entry r where r.reverses_id = e.id)
  order by e.at desc, e.id desc limit 1;
  new.soft := soft_bounces(array[known]);
  return new;
end $$;

-- Those of records that were merged before are told anew.
select keep_failures((select array_agg(a.id) from address a join person p on p.id = a.person_id where p.merged_into is not null));

-- down
create or replace function come_back() returns trigger language plpgsql security definer set search_path = public, pg_temp as $$
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
create or replace function keep_failures(addresses bigint[]) returns void language sql as $$
      update address a set failed_at = t.failed_at, failed_entry = t.entry, told = t.result
      from (
        select a.id, case when tells(e.result) then e.at end as failed_at, case when tells(e.result) then e.id end as entry, e.result
        from unnest(addresses) a(id) left join lateral (
          select e.id, e.at, e.result from entry e
          where e.address_id = a.id and e.kind = 'contact' and tells(e.result) is not null and not exists (select 1 from entry r where r.reverses_id = e.id)
          order by e.at desc, e.id desc limit 1) e on true) t
      where a.id = t.id and (a.failed_at is distinct from t.failed_at or a.failed_entry is distinct from t.entry or a.told is distinct from t.result) $$;
drop function soft_bounces(bigint[]);
drop function same_addresses(bigint);
drop function softly(text);
alter table address drop column soft;
