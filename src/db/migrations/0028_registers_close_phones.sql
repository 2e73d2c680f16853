-- A do-not-call register closes phones and nothing else, however it was written down.
update suppression set channels = '{phone}' where reason = 'register' and 'phone' = any(channels) and channels <> '{phone}';
-- What was called a register and is about no phone was somebody's word that holds them back: it goes on holding them back.
update suppression set reason = 'opt-out' where reason = 'register' and not 'phone' = any(channels);
alter table suppression add constraint suppression_register_check check (reason <> 'register' or channels = '{phone}');

-- down
alter table suppression drop constraint suppression_register_check;
