const CATEGORIES: Readonly<Record<string, readonly string[]>> = {
  clay: ['clay', 'fired_brick', 'roof_tile', 'crock', 'lamp_bowl', 'kiln_shelf'],
  reed: ['reed', 'thatch', 'reed_mat', 'creel', 'reed_pipe', 'screen'],
  water: ['eel', 'saltfish', 'mussel', 'crayfish', 'roe', 'kelp'],
  bees: ['honeycomb', 'beeswax', 'candle', 'smoker', 'hive_frame', 'mead'],
  light: ['lamp_oil', 'lantern', 'wick', 'glass_float', 'signal_lamp', 'tinder'],
  wood: ['oak_plank', 'alder_pole', 'oar', 'rudder', 'cask', 'trestle'],
  rope: ['rope_coil', 'net', 'sail', 'tow_line', 'fender', 'cork'],
  metal: ['tin_bell', 'nail', 'hook', 'anchor', 'shears', 'kettle'],
  papers: ['ferry_token', 'tide_table', 'ledger_book', 'permit', 'map', 'letter'],
}
const MAKES = ['', 'fine_', 'old_', 'small_', 'large_', 'wet_', 'painted_', 'plain_']

/** The items the game knows: id and category, about 420 in 9 categories. */
export function itemRegistry(): { id: string; category: string }[] {
  return Object.entries(CATEGORIES).flatMap(([category, names]) =>
    MAKES.flatMap((make) => names.map((name) => ({ id: make + name, category }))),
  )
}
