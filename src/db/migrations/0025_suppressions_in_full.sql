-- More reasons, a household as a whole, and what a suppression rests on.
alter table suppression drop constraint suppression_reason_check;
alter table suppression add constraint suppression_reason_check check (reason in ('opt-out', 'complaint', 'register', 'bounce', 'wrong number',
  'returned post', 'deceased or moved', 'customer', 'competitor', 'our own', 'agreed pause', 'other'));
-- A pause ends by itself.
alter table suppression add constraint suppression_pause_check check (reason <> 'agreed pause' or until is not null);
alter table suppression drop constraint suppression_scope_check;
alter table suppression add constraint suppression_scope_check check (scope in ('person', 'household', 'email', 'phone', 'domain', 'post', 'direct', 'organisation'));
alter table suppression add evidence text check (length(evidence) <= 400);
create index on suppression (until) where until is not null;
create or replace view suppression_standing as
  select s.* from suppression s where not exists (select 1 from suppression_lifted l where l.suppression_id = s.id);

-- A household is whoever has no organisation and lives at an address: its suppression touches each of them as a whole.
create or replace view suppression_touch as
  select s.id as suppression_id, s.person_id, null::bigint as address_id from suppression s where s.person_id is not null
  union all select k.suppression_id, a.person_id, a.id from suppression_key k join address a on a.key = k.key where k.channel <> 'household'
  union all select k.suppression_id, a.person_id, a.id from suppression_key k join address a on a.domain_key = k.key where k.channel <> 'household'
  union all select k.suppression_id, a.person_id, a.id from suppression_key k join address a on a.post_key = k.key
    where k.channel <> 'household' and not exists (select 1 from suppression_key v where v.suppression_id = k.suppression_id and v.key = a.key)
  union all select k.suppression_id, a.person_id, a.id from suppression_key k join address a on a.post_key_3 = k.key
    where k.channel <> 'household' and not exists (select 1 from suppression_key v where v.suppression_id = k.suppression_id and v.key in (a.key, a.post_key))
  union all select s.id, p.id, null from suppression s join person p on p.organisation_id = s.organisation_id
  union all select k.suppression_id, p.id, null from suppression_key k join organisation o on o.key = k.key join person p on p.organisation_id = o.id
    where k.channel <> 'household' and not exists (select 1 from suppression s where s.id = k.suppression_id and s.organisation_id = o.id)
  union all select distinct k.suppression_id, p.id, null::bigint from suppression_key k
    join lateral (select a.person_id from address a where a.key = k.key union all select a.person_id from address a where a.post_key = k.key
      union all select a.person_id from address a where a.post_key_3 = k.key) a on true
    join person p on p.id = a.person_id and p.organisation_id is null
    where k.channel = 'household';

-- down
create or replace view suppression_touch as
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
drop view suppression_standing;
drop index suppression_until_idx;
alter table suppression drop column evidence;
create view suppression_standing as
  select s.* from suppression s where not exists (select 1 from suppression_lifted l where l.suppression_id = s.id);
grant select on suppression_standing to arch_app;
alter table suppression drop constraint suppression_pause_check;
alter table suppression drop constraint suppression_reason_check;
alter table suppression add constraint suppression_reason_check check (reason in ('opt-out', 'complaint', 'register', 'other')) not valid;
alter table suppression drop constraint suppression_scope_check;
alter table suppression add constraint suppression_scope_check check (scope in ('person', 'email', 'phone', 'domain', 'post', 'direct', 'organisation')) not valid;
