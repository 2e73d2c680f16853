-- An erasure keeps the results of contacts that are words of ours, and this is one from now on.
do $$
begin
  execute replace(pg_get_functiondef('erase_person'::regproc), '''soft bounced'')', '''soft bounced'', ''has left'')');
end $$;

-- down
do $$
begin
  execute replace(pg_get_functiondef('erase_person'::regproc), '''soft bounced'', ''has left'')', '''soft bounced'')');
end $$;
