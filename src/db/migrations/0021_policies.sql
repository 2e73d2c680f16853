-- A policy is a named set of rules, kept in editions; a list has one, or the team's. A rule has an id for life, and whatever a round
-- froze names its rules by it.
create table policy (
  id bigint generated always as identity primary key,
  name text not null check (btrim(name) <> '' and length(name) <= 120),
  -- The one of lists that have chosen none.
  is_default boolean not null default false,
  created_by text not null,
  created_at timestamptz not null,
  archived_at timestamptz,
  check (archived_at is null or not is_default)
);
create unique index on policy (lower(name)) where archived_at is null;
create unique index on policy (is_default) where is_default;
create table policy_edition (
  id bigint generated always as identity primary key,
  policy_id bigint not null references policy,
  number int not null,
  rules jsonb not null,
  why text,
  saved_by text not null,
  saved_at timestamptz not null,
  unique (policy_id, number)
);
alter table list add policy_id bigint references policy;
alter table round add policy_edition_id bigint references policy_edition;
-- What was changed in the rules of one round alone: rules as they were and as they are, by id.
create table round_rule_change (
  id bigint generated always as identity primary key,
  round_id bigint not null references round,
  at timestamptz not null,
  actor_id text not null,
  why text,
  before jsonb not null,
  after jsonb not null
);
create index on round_rule_change (round_id);
create trigger refuse_late after insert on round_rule_change referencing new table as fresh for each statement execute function refuse_late();
grant select, insert on policy, policy_edition, round_rule_change to arch_app;
grant update (name, is_default, archived_at) on policy to arch_app;

-- Until now each kind stood once: its name is the id.
alter table round disable trigger user;
update round set rules = (
  select coalesce(jsonb_agg(rule || jsonb_build_object('id', rule->>'kind') order by n), '[]')
  from jsonb_array_elements(rules) with ordinality e(rule, n));
create function rule_at(of_round bigint, place int) returns text language sql stable as $$ select rules->place->>'id' from round where id = of_round $$;
alter table round_member alter column held_by type text using rule_at(round_id, held_by);
alter table round_channel alter column closed_by type text using rule_at(round_id, closed_by);
update round set figures = jsonb_set(figures, '{screening,rules}', (
  select coalesce(jsonb_agg(own || jsonb_build_object('rule', rule_at(round.id, n::int - 1)) order by n), '[]')
  from jsonb_array_elements(figures #> '{screening,rules}') with ordinality e(own, n)))
where figures #> '{screening,rules}' is not null;
update round r set figures = jsonb_set(figures, '{requalified,clear,rows}', (
  select coalesce(jsonb_agg(case when item #>> '{cause,by}' = 'rule' then jsonb_set(item, '{cause,rule}', coalesce(to_jsonb(rule_at(
      case when item #>> '{cause,when}' = 'now' then r.id else (
        select e.id from round e where e.list_id = r.list_id and e.number < r.number and e.released_at is not null order by e.number desc limit 1) end,
      (item #>> '{cause,rule}')::int)), '"no-way-to-reach"'::jsonb)) else item end order by n), '[]')
  from jsonb_array_elements(figures #> '{requalified,clear,rows}') with ordinality e(item, n)))
where jsonb_typeof(figures #> '{requalified,clear,rows}') = 'array';
drop function rule_at;

insert into policy (name, is_default, created_by, created_at) values ('Team policy', true, '', now());
insert into policy_edition (policy_id, number, rules, saved_by, saved_at)
  select id, 1, '[
    {"id": "no-way-to-reach", "kind": "no-way-to-reach"},
    {"id": "asked-to-stop", "kind": "asked-to-stop"},
    {"id": "register", "kind": "register", "version": null, "goodFor": 31},
    {"id": "address-failed", "kind": "address-failed", "off": false},
    {"id": "customers", "kind": "customers", "off": false, "relations": ["customer", "our own people"]},
    {"id": "contacted-within", "kind": "contacted-within", "off": false, "days": 30, "closes": "every channel"},
    {"id": "another-round", "kind": "another-round", "off": false, "closes": "every channel"}]'::jsonb, '', now()
  from policy;

-- A list whose last round went by other rules keeps them as a policy of its own. The register that is in use is no part of a policy.
create function plain_rules(rules jsonb) returns jsonb language sql immutable as $$
  select jsonb_agg(case when rule->>'kind' = 'register' then rule || '{"version": null, "goodFor": 31}' else rule end order by n)
  from jsonb_array_elements(rules) with ordinality e(rule, n) $$;
create temporary table own_rules on commit drop as
  select l.id as list_id, l.name, row_number() over (order by l.id) as place, plain_rules(w.rules) as rules
  from list l
  join lateral (select rules from round where list_id = l.id order by number desc limit 1) newest on true
  join lateral (
    select jsonb_agg(coalesce(own.rule, d.rule) order by d.n) as rules
    from policy_edition p cross join jsonb_array_elements(p.rules) with ordinality d(rule, n)
    left join lateral (select rule from jsonb_array_elements(newest.rules) e(rule) where e.rule->>'kind' = d.rule->>'kind' limit 1) own on true) w on true
  where plain_rules(w.rules) <> (select rules from policy_edition);
with made as (
  insert into policy (name, created_by, created_at)
  select left(format('Rules of %s', o.name), 100) || case when exists (select 1 from own_rules b where lower(b.name) = lower(o.name) and b.place < o.place)
    then format(' (%s)', o.list_id) else '' end, '', now() from own_rules o order by o.place
  returning id),
placed as (select id, row_number() over (order by id) as place from made),
kept as (
  insert into policy_edition (policy_id, number, rules, saved_by, saved_at)
  select p.id, 1, o.rules, '', now() from placed p join own_rules o using (place) returning 1)
update list set policy_id = p.id from placed p join own_rules o using (place) where o.list_id = list.id;
update round r set policy_edition_id = e.id
  from list l join policy p on p.id = coalesce(l.policy_id, (select id from policy where is_default)) join policy_edition e on e.policy_id = p.id
  where l.id = r.list_id and r.released_at is null;
drop function plain_rules(jsonb);
alter table round enable trigger user;

-- down
alter table round disable trigger user;
create function place_of(of_round bigint, rule text) returns int language sql stable as $$
  select n::int - 1 from round r cross join jsonb_array_elements(r.rules) with ordinality e(own, n) where r.id = of_round and own->>'id' = rule limit 1 $$;
update round set figures = jsonb_set(figures, '{screening,rules}', (
  select coalesce(jsonb_agg(own - 'rule' order by n), '[]') from jsonb_array_elements(figures #> '{screening,rules}') with ordinality e(own, n)))
where figures #> '{screening,rules}' is not null;
update round r set figures = jsonb_set(figures, '{requalified,clear,rows}', (
  select coalesce(jsonb_agg(case when item #>> '{cause,by}' = 'rule' then jsonb_set(item, '{cause,rule}', to_jsonb(coalesce(place_of(
      case when item #>> '{cause,when}' = 'now' then r.id else (
        select e.id from round e where e.list_id = r.list_id and e.number < r.number and e.released_at is not null order by e.number desc limit 1) end,
      item #>> '{cause,rule}'), 0))) else item end order by n), '[]')
  from jsonb_array_elements(figures #> '{requalified,clear,rows}') with ordinality e(item, n)))
where jsonb_typeof(figures #> '{requalified,clear,rows}') = 'array';
alter table round_member alter column held_by type int using place_of(round_id, held_by);
alter table round_channel alter column closed_by type int using place_of(round_id, closed_by);
drop function place_of(bigint, text);
update round set rules = (select coalesce(jsonb_agg(rule - 'id' order by n), '[]') from jsonb_array_elements(rules) with ordinality e(rule, n));
alter table round enable trigger user;
drop table round_rule_change;
alter table round drop column policy_edition_id;
alter table list drop column policy_id;
drop table policy_edition;
drop table policy;
