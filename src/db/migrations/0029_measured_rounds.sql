/* A round that was just frozen is in no statistics yet: the planner takes it for one person, and asks for each of its people anew, for
   minutes where there are thousands. Only their owner may measure tables. */
create function measure_rounds() returns void language plpgsql security definer set search_path = public, pg_temp as $$
begin
  analyze round_member, round_channel, contact_to_come;
end $$;
revoke all on function measure_rounds() from public;
grant execute on function measure_rounds() to arch_app;

-- down
drop function measure_rounds();
