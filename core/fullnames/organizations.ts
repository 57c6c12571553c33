import { bare, wordsOf } from '../names/index.ts';

const set = (text: string): ReadonlySet<string> => new Set(text.split(/\s+/).filter(Boolean).map(bare));

/** Legal forms, without points, in small letters. */
export const LEGAL_FORMS =
  set(`inc incorporated llc pllc llp lllp lp ltd limited corp corporation co company pc pa plc cic nfp
  gmbh ag kg ohg ug gbr ev eg kgaa mbh sarl sàrl sas sasu eurl sci snc sa scop srl spa sapa snc sl slu sad sc cv ltda eireli me bv nv vof cvba
  vzw asbl oy oyj ab as asa aps a/s hf ehf kft zrt nyrt sro doo dd jdoo ood eood ooo oao zao sia uab oü pte pty pvt sdn bhd tbk kk gk yk`);

/** Words of undertakings that people are called by too: `Charlotte Church`, `Frank Club`. */
export const PLACES =
  set(`church temple trust club bank banks market farm farms school schools college park parks hall house lodge abbey
  parish chapel garage union guild post power powers shop fair band law waters inn marina field fields garden gardens mission lions
  city town village county press bush books cellars gallery store pastor music team center lake hill hills mill mills bridge ferry
  orchard ranch court castle kitchen service post water gas oil`);

const less = (taken: ReadonlySet<string>, text: string): ReadonlySet<string> =>
  new Set([...set(text)].filter((word) => !taken.has(word)));

/** Words of trades and undertakings: no person's last name, or hardly ever. */
export const TRADES = less(
  PLACES,
  `foundation fdn foundations fund funds endowment charity charities charitable philanthropies philanthropic trust trusts
  association associations assn assoc associates society societies club clubs church churches temple synagogue mosque cathedral basilica monastery
  convent diocese archdiocese parish congregation fellowship assembly tabernacle ministry ministries mission missions chapel shul
  school schools academy college university universities institute institution seminary kindergarten preschool library libraries museum
  museums gallery galleries theatre theater ballet opera orchestra symphony philharmonic choir chorus ensemble quartet festival
  hospital hospitals clinic clinics hospice medical dental dentistry orthodontics pediatrics pharmacy optometry veterinary healthcare health
  bank bancorp credit insurance financial finance capital investment investments advisors advisers wealth securities equity ventures
  holdings enterprises enterprise industries industrial industry manufacturing international intl global worldwide systems solutions
  technologies technology tech software digital media networks network data labs laboratories laboratory research analytics
  services service group partners partnership partnerships consulting consultants management mgmt agency agencies bureau office offices law
  attorneys architects architecture engineering engineers contractors contracting construction builders building roofing plumbing
  electric electrical heating hvac flooring painting landscaping landscape masonry excavating concrete welding fabrication
  bakery cafe café coffee restaurant grill diner bistro pizzeria pizza catering brewing brewery winery vineyard vineyards cellars
  distillery deli kitchen tavern pub hotel motel inn resort lodge hostel market markets grocery foods produce dairy orchards farms ranch
  nursery gardens hardware lumber supply supplies supplyco furniture interiors boutique store stores shop shops outlet mart jewelers
  jewelry florist flowers salon spa fitness gym yoga studio studios photography printing press publishing publishers books bookstore
  garage auto automotive motors motorsports tire towing transport transportation trucking logistics airlines freight realty properties
  realtors apartments homes housing development developers energy solar power utilities mining oil gas water
  council committee commission department dept district county city town township village municipality bureau authority ministry embassy
  government union league guild coalition alliance federation consortium conservancy observatory rotary lions kiwanis soroptimist
  chamber commerce center centre centers initiative project program programme campaign corps cooperative coop collective exchange
  auxiliary legion veterans scouts troop boosters pta pto ptsa alumni fraternity sorority team athletics soccer football baseball
  shelter rescue sanctuary zoo aquarium planetarium preserve wildlife humane relief aid outreach volunteers radio television tv news
  newspaper police fire high elementary lutheran methodist baptist presbyterian episcopal catholic orthodox unitarian evangelical islamic masjid
  jewish bnai beth shalom gifts matching scholarship scholarships memorial award anonymous nonprofit charitable times gazette tribune records music productions entertainment events rentals travel tours estate
  stiftung verein gesellschaft werke bäckerei apotheke praxis fondation fundación fundacion fundação association société
  asociación sociedad compañía hijos bäcker étude cabinet boulangerie pharmacie panadería construcciones taller`,
);

/** Legal forms that are also names or initials: they count where they are written as forms are. */
export const UNCERTAIN_FORMS = set(
  `sa ag ab as pc pa lp kg sc se bv nv ev eg ug sas spa srl sl ad cv me gk kk kft sro doo`,
);

/** Words that open the name of an organization. */
export const OPENERS =
  set(`pt ооо оао зао stiftung verein société sociedad asociación fundación fundação fondation fondazione stichting association
  comité église iglesia igreja kirche parroquia escuela école schule universidad université università universität instituto museo musée
  colegio hospital banco banque congregation university church city county town`);

/** First names that churches, schools and the like are called by too. */
export const VIRTUES =
  set(`grace faith hope trinity christ charity mercy unity victory calvary bethel zion lincoln madison jefferson washington
  jackson franklin carson first sierra savannah dakota brooklyn austin orlando houston dallas denver camden chester river summer sunny`);

/** Places that churches, schools and towns have in their names: after one of VIRTUES they tell nothing. */
export const SHARED_PLACES = set(
  `church temple chapel school schools college center centre house mission parish abbey park parks hall city county`,
);

/** Words of organizations in scripts that put no space between words. */
export const UNSPACED =
  /株式会社|有限会社|合同会社|会社|公司|集团|大学|學校|学校|協会|协会|財団|基金会|基金會|银行|銀行|医院|病院|教会|教會|寺$|神社$|주식회사|재단|교회|대학교|협회|은행/u;

/** The words by which an organization is known: without `The` before and legal forms after them. */
export function firmWords(name: string): string[] {
  const words = wordsOf(name);
  const forms = words.map((word) => LEGAL_FORMS.has(word));
  let end = words.length;
  while (end > 1 && forms[end - 1]) end--;
  return words.slice(words[0] === 'the' && end > 1 ? 1 : 0, end);
}
