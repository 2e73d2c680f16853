-- The country of a number, as an ISO 3166-1 alpha-2 code, where it can be told: a call goes by the rules of that country.
alter table address add country text check (country ~ '^[A-Z]{2}$');
-- Numbers that came in before: by calling codes that one country alone has (ITU-T E.164). Of the code 44 the islands have prefixes of
-- their own, and the code 1 is of many countries, so those stay unknown until they come in again.
update address set country = c.country
from (values ('+44', 'GB'), ('+353', 'IE'), ('+33', 'FR'), ('+49', 'DE'), ('+31', 'NL'), ('+32', 'BE'), ('+34', 'ES'), ('+43', 'AT'), ('+45', 'DK'),
  ('+46', 'SE'), ('+48', 'PL'), ('+351', 'PT'), ('+30', 'GR'), ('+36', 'HU'), ('+420', 'CZ'), ('+421', 'SK'), ('+40', 'RO'), ('+359', 'BG'),
  ('+385', 'HR'), ('+386', 'SI'), ('+370', 'LT'), ('+371', 'LV'), ('+372', 'EE'), ('+352', 'LU'), ('+356', 'MT'), ('+357', 'CY')) as c(code, country)
where channel = 'phone' and usable and starts_with(value, c.code)
  and value !~ '^\+44(1481|1534|1624|7781|7839|7911|7509|7797|7937|7700|7829|7624|7524|7924)';

-- down
alter table address drop column country;
