/** Everything here is made up. Towns of Pellow County with their postcode districts; PW is no real postcode area. */
export const TOWNS = [
  ['Thornmouth', 'PW1', 9], ['Low Wendle', 'PW2', 7], ['Wendle Cross', 'PW3', 7], ['Kettlehythe', 'PW4', 6], ['Saltrey Fen', 'PW5', 5],
  ['Farrowbridge', 'PW6', 6], ['Upper Marle', 'PW7', 3], ['Copsewick', 'PW8', 3], ['Hollin Staithe', 'PW9', 2], ['Ashby Tarn', 'PW10', 2],
  ['Great Pellow', 'PW11', 4], ['Dunnock Green', 'PW12', 2],
] as const

export const STREETS = [
  'Mill Lane', 'Station Road', 'Quay Street', 'Orchard Way', 'Chapel Hill', 'Tannery Row', 'Sluice Road', 'Heron Drive', 'Kiln Lane', 'Market Place',
  'Weir Street', 'Larch Avenue', 'Ropewalk', 'Old Toll Road', 'Brook Close', 'Foundry Street', 'Reed Gardens', 'Almond Court', 'Bridge Street', 'Lock Terrace',
] as const

export const GIVEN = [
  'Maud', 'Tomas', 'Priya', 'Joss', 'Carmen', 'Wilf', 'Noor', 'Greta', 'Ambrose', 'Lucia', 'Dev', 'Hanne', 'Ottoline', 'Bram', 'Ines', 'Leif', 'Zadie', 'Marek', 'Beth', 'Callum',
  'Yusuf', 'Aoife', 'Rowan', 'Sunita', 'Pavel', 'Nell', 'Idris', 'Freya', 'Hamza', 'Clara', 'Owen', 'Mei', 'Tariq', 'Elsie', 'Jonas', 'Amina', 'Rhys', 'Petra', 'Kofi', 'Agnes',
  'Dmitri', 'Lowri', 'Samir', 'Edith', 'Anton', 'Farah', 'Gwen', 'Ivo', 'Jaya', 'Kit', 'Lena', 'Milo', 'Nadia', 'Oskar', 'Pia', 'Quentin', 'Rosa', 'Silas', 'Thea', 'Umar',
  'Vera', 'Wes', 'Ximena', 'Yara', 'Zeb', 'Ailsa', 'Basil', 'Cora', 'Dara', 'Emrys', 'Fay', 'Gil', 'Hugo', 'Isla', 'Jude', 'Kira', 'Linus', 'Mabel', 'Niall', 'Orla',
  'Percy', 'Renée', 'Søren', 'Tilda', 'Ursula', 'Vikram', 'Winnie', 'Zoë', 'André', 'Björn', 'Chloe', 'Dafydd', 'Eun-ji', 'Fergus', 'Hester', 'Ilse', 'Jia', 'Kamal', 'Lorna', 'Moira',
] as const

const FAMILY_A = ['Ald', 'Ash', 'Bram', 'Brock', 'Cald', 'Dun', 'Elder', 'Fair', 'Gar', 'Hal', 'Hart', 'Kest', 'Lang', 'Marl', 'Nor', 'Ost', 'Pen', 'Rad', 'Sel', 'Thorn', 'Wake', 'Whit', 'Yar'] as const
const FAMILY_B = ['wych', 'by', 'combe', 'den', 'ell', 'field', 'ham', 'kin', 'ley', 'mere', 'ridge', 'shaw', 'ton', 'well', 'worth'] as const
const FAMILY_MORE = [
  'Okafor', 'Nandakumar', 'Ruiz Vela', 'Haddad', 'Solheim', 'Pike', 'Ferran', 'Anand Rao', 'Visser', 'Oduya', 'Brandl', 'Tarrant', 'Novák', 'O’Malley-Reeve', 'Łukasik', 'Demirci', 'Adeyemi-Hart', 'Sørlie',
  'Kaur Bains', 'Ferreira', 'Takeda-Lunn', 'MacAskill', 'van der Hoek', 'Iqbal', 'Moreau', 'Szabó', 'Nkemelu', 'Petrova', 'Lindqvist', 'Castellan',
] as const
export const FAMILY: readonly string[] = [...FAMILY_A.flatMap((a) => FAMILY_B.map((b) => a + b)), ...FAMILY_MORE, ...FAMILY_MORE, ...FAMILY_MORE]

export const PLACE_A = ['Quarry', 'Larch', 'Hallow', 'Marsh', 'Alder', 'Sedge', 'Heron', 'Otter', 'Willow', 'Stone', 'Ferry', 'Orchard', 'Kiln', 'Rook', 'Fallow', 'Amber', 'Chalk', 'Linden', 'Cobble', 'Teal'] as const
export const PLACE_B = ['bank', 'croft', 'wick', 'holm', 'mere', 'gate', 'combe', 'stead', 'brook', 'garth'] as const

/** Kinds of organisation: name, industry, weight, and the roles found there with their weights. */
const ESTATES = [
  ['Estates Manager', 6], ['Head of Estates', 3], ['Facilities Manager', 6], ['Facilities Lead', 2], ['Facilities Co-ordinator', 3], ['Director of Estates', 2], ['Premises Officer', 3], ['Site Manager', 4],
  ['Buildings Manager', 2], ['Estates and Compliance Manager', 2], ['Trainee Estates Officer', 1], ['Deputy Facilities Manager', 1], ['estates mgr', 1], ['FACILITIES MANAGER', 1], ['Head of Facilities & Estates', 1], ['Caretaker', 4],
] as const
const OFFICE = [['Receptionist', 3], ['Finance Officer', 3], ['Business Manager', 3], ['Secretary', 2], ['IT Technician', 1], ['HR Adviser', 1]] as const

export const KINDS = [
  { suffix: 'Primary School', industry: 'school', weight: 16, roles: [...ESTATES, ...OFFICE, ['Head Teacher', 5], ['Bursar', 4], ['Class Teacher', 4]] },
  { suffix: 'Academy', industry: 'school', weight: 8, roles: [...ESTATES, ...OFFICE, ['Principal', 4], ['Bursar', 3]] },
  { suffix: 'Clinic', industry: 'clinic', weight: 9, roles: [...ESTATES, ...OFFICE, ['Practice Manager', 7], ['Nurse', 4]] },
  { suffix: 'Surgery', industry: 'clinic', weight: 7, roles: [...OFFICE, ['Practice Manager', 8], ['Caretaker', 2], ['Facilities Manager', 2]] },
  { suffix: 'Care Home', industry: 'care home', weight: 9, roles: [...ESTATES, ...OFFICE, ['Home Manager', 7]] },
  { suffix: 'Brewery', industry: 'brewery', weight: 5, roles: [['Head Brewer', 7], ['Site Manager', 5], ['Facilities Manager', 3], ['Operations Director', 4], ...OFFICE] },
  { suffix: 'Dairy', industry: 'dairy', weight: 4, roles: [['Dairy Manager', 6], ['Site Manager', 5], ['Facilities Manager', 3], ...OFFICE] },
  { suffix: 'Nursery and Gardens', industry: 'plant nursery', weight: 7, roles: [['Nursery Manager', 8], ['Head Gardener', 5], ['Owner', 5], ...OFFICE] },
  { suffix: 'Housing Association', industry: 'housing body', weight: 6, roles: [...ESTATES, ...OFFICE, ['Housing Officer', 6], ['Asset Manager', 4]] },
  { suffix: 'Homes', industry: 'housing body', weight: 4, roles: [...ESTATES, ...OFFICE, ['Asset Manager', 5]] },
  { suffix: 'Library', industry: 'library', weight: 3, roles: [...OFFICE, ['Librarian', 6], ['Premises Officer', 3]] },
  { suffix: 'Leisure Centre', industry: 'leisure', weight: 4, roles: [...ESTATES, ...OFFICE, ['Centre Manager', 6]] },
  { suffix: 'Logistics Ltd', industry: 'warehouse', weight: 6, roles: [['Warehouse Manager', 6], ['Site Manager', 5], ['Facilities Manager', 4], ['Operations Director', 3], ...OFFICE] },
  { suffix: 'Joinery Ltd', industry: 'workshop', weight: 5, roles: [['Owner', 7], ['Workshop Manager', 5], ...OFFICE] },
  { suffix: 'Farm Shop', industry: 'shop', weight: 4, roles: [['Owner', 8], ['Shop Manager', 5], ...OFFICE] },
  { suffix: 'Community Hall', industry: 'hall', weight: 3, roles: [['Caretaker', 5], ['Chair of Trustees', 5], ['Bookings Secretary', 4]] },
] as const

/** Numbers that Ofcom keeps for drama: prefix and how many digits follow it (from memory; in E.164 without the +). */
export const FICTION: readonly (readonly [prefix: string, digits: number])[] = [
  ['44113496 0', 3], ['44114496 0', 3], ['44115496 0', 3], ['44116496 0', 3], ['44117496 0', 3], ['44118496 0', 3], ['44121496 0', 3], ['44131496 0', 3],
  ['44141496 0', 3], ['44151496 0', 3], ['44161496 0', 3], ['442079460', 3], ['441914980', 3], ['442896496', 3], ['442920180', 3], ['441632960', 3], ['447700900', 3],
].map(([p, d]) => [String(p).replace(' ', ''), Number(d)] as const)
