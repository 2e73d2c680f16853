-- Whoever else has the same name is looked for in an erasure, whatever its letters: without this everybody is gone through, three times.
create index person_lower_name_idx on person (lower(name));

-- down
drop index person_lower_name_idx;
