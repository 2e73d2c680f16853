-- When each channel of a round is worked, by channel: so many days after the release, and whether an earlier answer spares it. Null: all at once.
alter table round add steps jsonb;
-- From which day a contact is to be made, and what spares it; one that was spared names the contact that did.
alter table contact_to_come add due date;
alter table contact_to_come add unless text check (unless in ('answered', 'reached'));
alter table contact_to_come add spared boolean not null default false;
create index contact_to_come_unless on contact_to_come (person_id) where unless is not null;

-- down
drop index contact_to_come_unless;
alter table contact_to_come drop column spared;
alter table contact_to_come drop column unless;
alter table contact_to_come drop column due;
alter table round drop column steps;
