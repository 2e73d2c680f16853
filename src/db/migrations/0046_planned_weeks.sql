-- The week of its round in which a contact is planned, from 1; null where the round has no plan by weeks.
alter table contact_to_come add week int check (week between 1 and 1000000);

-- down
alter table contact_to_come drop column week;
