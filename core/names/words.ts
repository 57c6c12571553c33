import { fold } from './text.ts';

/** Words by their bare form, with how they are written. */
function written(text: string): ReadonlyMap<string, string> {
  return new Map(
    text
      .split(/\s+/)
      .filter(Boolean)
      .map((word) => [bare(word), word]),
  );
}
const set = (text: string): ReadonlySet<string> => new Set(text.split(/\s+/).filter(Boolean).map(bare));

/** A word without points, apostrophes and hyphens, folded: `Ph.D.` and `PhD` are both `phd`. */
export function bare(word: string): string {
  return fold(word).replace(/[.,()\-‐‑–]/g, '');
}

/** Words that stand before a name. */
export const TITLES = written(`
  Mr. Mrs. Ms. Miss Mx. Mister Missus Master Madam Madame Mme. Mmes. Mlle. Mademoiselle Monsieur Messrs. MM. Misses Drs. Revs. Profs.
  Dr. Doctor Doctora Dra. Prof. Professor Professorin Doutor Dott. Dottore Dottoressa Dott.ssa Med. Mag.
  Rev. Revd. Rev'd Reverend Fr. Father Padre Br. Bro. Brother Sis. Sister Mother Friar Fra Abbot Abbess Canon Prebendary Vicar
  Bishop Archbishop Abp. Bp. Cardinal Card. Cdl. Msgr. Monsignor Mons. Pope Deacon Archdeacon Pastor Ptr. Apostle Prophet
  Evangelist Elder Minister Deaconess Rabbi Rebbe Cantor Chazan Hazzan Imam Sheikh Shaikh Shaykh Mufti Mullah Maulana Ustadh Ustaz Haji Hajji Hajjah
  Hajah Swami Lama Ajahn Ven. Venerable Pandit Pujya Guru Shri Sri Smt. Shrimati Sardar Kumari
  Hon. Honorable Honourable Judge Justice Sen. Senator Rep. Representative Congressman Congresswoman Gov. Governor Mayor Alderman
  Councilman Councilwoman Councillor Councilmember Commissioner Secretary Ambassador Amb. H.E. Excellency Eminence Holiness President Chancellor Provost
  Attorney Atty. Coach Chief Sheriff Officer Detective Det. Deputy Marshal Trooper Superintendent Principal Supt.
  Capt. Captain Cpt. Lt. Lieutenant Col. Colonel Maj. Major Gen. General Sgt. Sergeant Adm. Admiral Cmdr. Leader
  Commander Cdr. Pvt. Private Cpl. Corporal LCpl. PFC SPC Specialist Ensign ENS Commodore Brigadier Brig. BGen MGen LtGen
  Ltc. LTC LtCol RADM VADM RDML LCDR LTJG SSgt SSG TSgt MSgt MSG SMSgt CMSgt SFC GySgt MGySgt SgtMaj SGM CSM CPO SCPO MCPO Airman
  Seaman WO Midshipman Cadet Sapper Trooper
  Sir Dame Lord Lady Baroness Baronin Viscount Viscountess Countess Marquess Marchioness Princess Duchess Freiherr Graf Gräfin
  Sr. Sra. Srta. Señor Señora Señorita Senhor Senhora Doña Dona Lic. Licda. Ing. Arq. Abog.
  Herr Herrn Frau Fräulein Dipl.-Ing. Dipl.-Kfm. Dipl.-Psych. Dipl.-Phys. Dipl.-Inf. Univ.-Prof. Dr.-Ing. PD
  Signor Signora Signorina Sig. Sig.ra Avv. Geom. Rag. Onorevole
  Dhr. Mevr. Mw. Ir. Ing. Pan Pani Tn. Ny. Bapak Ibu Maître Hr. Fru
  Datuk Dato Dato' Datin Tun Tunku Tengku Encik Cik Puan Daw Khun Ato Alhaji Alhaja Chieftain Oba Nana Mwalimu Mzee`);

/** Words that are titles only where a title follows. */
export const BEFORE_TITLES =
  set(`the most right very his her their your rear vice first second third 1st 2nd 3rd 1lt 2lt staff master
  petty lance gunnery air wing flight squadron warrant lord grand tan puan emeritus rt major maj lieutenant lt brigadier brig
  sergeant technical tech assistant asst associate deputy command retired ret group univ`);

/** Words that are titles only after a title. */
export const AFTER_TITLES =
  set(`med dent vet phil jur iur rer nat pol oec habil hc mult theol techn em emeritus emerita excellency jg
  eminence holiness grace honor highness majesty superior seri sri class general officer leader marshal ret retired of staff major
  first second third 1st 2nd 3rd`);

/** Ranks that carry a number: `CWO3`, `1LT`, `PO2`. */
export const NUMBERED_RANK = /^(?:[12](?:lt|sg|stlt|ndlt)|cw[o]?[1-5]|wo[1-5]|po[1-3]|[a-z]{2}[1-3]|e[1-9]|o[1-9])$/;

/** Titles that go with the first name: `Sir Ian`, `Sister Agnes`. */
export const FIRST_NAMED =
  set(`sister sis brother bro br mother friar fra sir dame pope princess swami lama shri sri smt shrimati kumari
  sheikh shaikh shaykh datuk dato datin tun tunku tengku encik cik puan haji hajji hajjah hajah doña khun ato daw`);

/** Courtesy titles that say no rank or calling. */
export const COURTESY =
  set(`mr mrs ms miss mx mister missus madam madame mme mlle mademoiselle monsieur m herr herrn frau sr sra srta señor
  señora señorita senhor senhora signor signora signorina sig sigra dhr mevr mw pan pani`);

/** What one title for several people says of each. */
export const PLURAL_TITLES = new Map([
  ['messrs', 'Mr.'],
  ['mm', 'M.'],
  ['drs', 'Dr.'],
  ['mmes', 'Mme.'],
  ['misses', 'Miss'],
  ['revs', 'Rev.'],
  ['profs', 'Prof.'],
  ['doctors', 'Dr.'],
  ['professors', 'Professor'],
  ['pastors', 'Pastor'],
  ['reverends', 'Rev.'],
  ['rabbis', 'Rabbi'],
]);

/** Words that stand after a name, in the form they are written. */
export const SUFFIXES: ReadonlyMap<string, string> = new Map([
  ...written(`Jr. Sr. II III IV VI VII VIII 2nd 3rd 4th 5th Esq. Bt. Bart. Ret. Rtd.
  Ph.D. D.Phil. M.D. D.O. D.D.S. D.M.D. D.V.M. V.M.D. D.P.M. O.D. D.C. Pharm.D. R.Ph. R.N. L.P.N. B.S.N. M.S.N. D.N.P. N.P. A.R.N.P. C.R.N.A.
  C.N.M. R.D. R.D.N. P.A.-C. M.P.H. Dr.P.H. M.H.A. F.A.C.S. F.A.C.P. F.A.A.P. F.A.C.O.G. F.A.C.C. F.A.A.N. F.R.C.S. F.R.C.P. F.R.S. M.B.B.S.
  MBBCh M.B. Ch.B. Sc.D. D.Sc. Eng.D. J.D. J.S.D. LL.M. LL.B. LL.D. Q.C. K.C. S.C. J.P. M.P. M.B.A. D.B.A. M.S.W. L.C.S.W. L.M.S.W. L.I.S.W. L.M.F.T.
  L.P.C. M.F.T. M.A. B.A. A.B. A.M. M.S. B.S. M.Sc. B.Sc. M.Eng. B.Eng. M.Ed. B.Ed. Ed.D. Ed.S. Ed.M. Psy.D. M.F.A. B.F.A. D.M.A. M.M. B.M. M.Phil. M.L.S. M.L.I.S. M.P.A. M.P.P.
  M.Div. D.Min. Th.D. Th.M. D.D. S.T.D. S.T.L. S.T.B. J.C.L. J.C.D. C.P.A. C.M.A. C.F.A. C.F.P. ChFC C.L.U. E.A. P.E. P.L.S. P.G. A.I.A. F.A.I.A. A.S.L.A. F.A.S.L.A. R.A. LEED-AP AICP
  O.B.E. M.B.E. C.B.E. K.B.E. D.B.E. G.B.E. C.M.G. K.C.M.G. C.V.O. D.S.O. A.O. A.C. O.C. C.M. V.C. G.C. K.C.B. F.B.A. F.R.S.A. F.R.S.L.
  U.S.N. U.S.A.F. U.S.M.C. U.S.A. U.S.C.G. U.S.N.R. U.S.A.R. USPHS U.S.S.F. R.N.R. R.A.F.
  OSB SJ OP OFM O.F.M.Cap. O.F.M.Conv. OSF CSC FSC FMS CSJ SSJ RSM SDB SVD OCD OCSO CSsR C.Ss.R. C.S.Sp. OSA OMI MM SND SNDdeN IHM BVM RSCJ FSPA OSU SC PBVM IBVM SSND CSP CP OCarm O.Carm. O.S.C. O.SS.T. SM SMA TOR OSFS MSC LC CMF
  CFRE ACFRE CAP CSPG CAE PMP SPHR PHR SHRM-CP SHRM-SCP CISSP GRI CRS CCIM ABR MAI CPCU CRNP PT DPT OT OTR OTR/L CCC-SLP SLP BCBA ACNP FNP FNP-BC NP-C RN-BC APRN AOCN CEN CCRN CNA EMT EMT-P LAc L.Ac. LMT CPT ATC`),
  ['v', 'V'],
  ['junior', 'Jr.'],
  ['senior', 'Sr.'],
  ['jnr', 'Jr.'],
  ['snr', 'Sr.'],
  ['leedap', 'LEED-AP'],
  ['esquire', 'Esq.'],
  ['retired', 'Ret.'],
]);

/** Suffixes that are also plain names or initials: taken only where something marks them. */
export const DOUBTFUL =
  set(`v ma ba ms bs do pe dd sr ab am sc cm ac ao mm ed oc dc od op pa ra rd sm cp cap lc pt ot gri mai ea pg mp kc qc jp vc
  gc mb bm ret np vi abr cen cna`);

/** Suffixes that say the bearer is a doctor, as `Dr.` does. */
export const DOCTORAL =
  set(`phd dphil md do dds dmd dvm vmd dpm od dc pharmd dnp scd dsc engd edd psyd dba dma mbbs mbbch drph dmin thd
  std dpt`);

/** Words that open a last name of several words. */
export const PARTICLES =
  set(`van von vom vander vanden der den dem de del della delle delli degli dei dello dela la las los le les da
  das do dos du di d' de' dell' dall' dalla dal af av zu zum zur und auf ten ter te ter 't in op aan bij uit over onder het bin ibn ben bat bar bint binti
  binte al el ul ud abd abu abou umm st saint ste sainte san santa santo são ap ab ferch verch ver y e i mac mc o' ó ní nic ua uí mhic o a/l a/p
  s/o d/o ould oglu l'
  بن ابن بنت آل أبو ابو عبد בן בת בר אבו`);

/** Particles that are written with a capital in names all in capitals or small letters. */
export const WRITTEN_LARGE = set(
  'st saint ste sainte san santa santo sao mac mc al el le ver ben o abu abd abou umm oglu ul ud',
);

/** What stands between two people. */
export const JOINS = [
  '&',
  '+',
  '/',
  'and',
  'und',
  'et',
  'or',
  'oder',
  'ou',
  'u.',
  'og',
  'och',
  'en',
  'y',
  'e',
  'i',
] as const;

/** What follows Mac with a capital: without the list, Mackey and Machado would be spoiled. */
export const MAC_STEMS =
  set(`donald leod arthur gregor kenzie intyre lean millan neil neill pherson dougall kay kinnon laren farlane duff
  bride callum innes namara queen rae tavish gill gowan ewan ewen allister alister aulay beth arthy dermott diarmid fadden guire isaac ivor
  lachlan lennan naughton nab nish phail quarrie sween vicar william mahon manus mullen murray taggart`);

/** What somebody is to a gift or an account, said after the name. */
export const ROLES =
  set(`trustee trustees ttee executor executrix president chair chairman chairwoman director owner manager treasurer secretary ceo
  cfo coo poa custodian guardian deceased administrator agent partner founder`);

/** Titles of nobility that are a part of the last name. */
export const NOBLE = set('graf gräfin freiherr freifrau fürst fürstin prinz prinzessin ritter edler baron baronin');

/** Titles that go with either name, as the bearer likes: `Pastor Dave`, `Father Dolan`. */
export const EITHER_NAMED = set('pastor father fr padre rabbi imam coach deacon sr');
