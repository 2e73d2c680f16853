-- A direct message goes to the link of a profile or to a handle, which is kept as an address with a key like the others.
alter table address drop constraint address_channel_check;
alter table address add constraint address_channel_check check (channel in ('email', 'phone', 'post', 'direct'));
alter table round_channel drop constraint round_channel_channel_check;
alter table round_channel add constraint round_channel_channel_check check (channel in ('email', 'phone', 'post', 'direct'));
alter table let_through drop constraint let_through_channel_check;
alter table let_through add constraint let_through_channel_check check (channel in ('email', 'phone', 'post', 'direct'));
alter table suppression drop constraint suppression_scope_check;
alter table suppression add constraint suppression_scope_check check (scope in ('person', 'email', 'phone', 'domain', 'post', 'direct', 'organisation'));

-- down
delete from address where channel = 'direct';
alter table address drop constraint address_channel_check;
alter table address add constraint address_channel_check check (channel in ('email', 'phone', 'post'));
alter table round_channel drop constraint round_channel_channel_check;
alter table round_channel add constraint round_channel_channel_check check (channel in ('email', 'phone', 'post')) not valid;
alter table let_through drop constraint let_through_channel_check;
alter table let_through add constraint let_through_channel_check check (channel in ('email', 'phone', 'post')) not valid;
alter table suppression drop constraint suppression_scope_check;
alter table suppression add constraint suppression_scope_check check (scope in ('person', 'email', 'phone', 'domain', 'post', 'organisation')) not valid;
