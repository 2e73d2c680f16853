-- Whether a round is for those alone whom no earlier round of its list released.
alter table round add only_new boolean not null default false;

-- down
alter table round drop only_new;
