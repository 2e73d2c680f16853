/** Given names that stand for each other, folded; a name may stand in several (common practice, no source). */
const GROUPS = `
alexander alex sandy xander lex|alexandra alex sandra lexi|alfred alf fred alfie|alice ali|andrew andy drew|ann anne anna annie nan|anthony tony ant|antonia toni
arthur art|barbara barb babs|benjamin ben benny|bernard bernie|bridget biddy bridie|caroline carrie caro|catherine katherine kathryn cathy kathy kate katie kitty cat kat
charles charlie chas chuck|charlotte charlie lottie|christine christina chris tina chrissie|christopher chris kit|clifford cliff|cornelius con neil|daniel dan danny|david dave davy
deborah deb debbie|dennis den|derek del|donald don|dorothy dot dolly dottie|douglas doug|edmund ed eddie ned|edward ed eddie ted teddy ned|eleanor ellie nell nora
elizabeth liz lizzie beth betty eliza elsie libby bess betsy|emily em emmie|ernest ernie|eugene gene|florence flo florrie|frances fran fanny frankie|francis frank fran
frederick fred freddie|gabriel gabe|geoffrey geoff jeff|george georgie|gerald gerry jerry|gregory greg|gwendolen gwen|harold harry hal|harriet hattie harry|helen nell nellie ellen lena
henry harry hal hank|herbert bert herb|hugh hughie|irene rene|isabel isabella bella izzy belle|jacob jake|james jim jimmy jamie jem|janet jan|jennifer jen jenny|jeremy jerry jem
joan joanie|joanna jo|john jack johnny jon|jonathan jon jonny|joseph joe joey|josephine jo josie|joshua josh|judith judy|julian jules|kenneth ken kenny|laurence lawrence larry laurie
leonard len lenny leo|lewis louis lew lou|lillian lily lil|louise lou|lucinda lucy|madeleine maddy|magnus mags|malcolm mal|margaret maggie meg peg peggy madge rita greta daisy marge
maria mary molly mia|martha patty|martin marty|matilda tilly mattie|matthew matt|maureen mo|maurice mo|maxwell max|michael mike mick mickey|mildred millie|millicent millie|mohammed mohamed muhammad mo
nathaniel nathan nat|nathan nat|nicholas nick nicky klaus|nicola nicky nikki|oliver ollie|olivia liv livvy|pamela pam|patricia pat patsy trish tricia|patrick pat paddy|penelope penny|peter pete
philip phillip phil pip|philippa pip pippa|raymond ray|rebecca becky bex|reginald reg reggie|richard rick dick richie rich|robert rob bob bobby robbie bert|roderick rod roddy|roger rodge
ronald ron ronnie|rosemary rose rosie|russell russ|samantha sam|samuel sam sammy|sarah sally sadie|sebastian seb|sidney sid|sophia sophie|stanley stan|stephanie steph|stephen steven steve
stuart stewart stu|susan sue susie suzy|terence terry|teresa theresa terry tess|theodore ted theo|thomas tom tommy tam|timothy tim|veronica ronnie|victor vic|victoria vicky tori
vincent vin vince|virginia ginny|walter wally wal|wilfred wilf|william will bill billy liam willie|winifred win winnie|yvonne vonnie|zachary zach zak`

const groupsOf = new Map<string, Set<number>>()
GROUPS.trim()
  .split(/[|\n]/)
  .forEach((group, i) => {
    for (const name of group.trim().split(' ')) groupsOf.set(name, (groupsOf.get(name) ?? new Set()).add(i))
  })

/** Whether one given name, folded, may stand for the other. */
export function standsFor(a: string, b: string): boolean {
  const [left, right] = [groupsOf.get(a), groupsOf.get(b)]
  if (!left || !right) return false
  for (const group of left) if (right.has(group)) return true
  return false
}
