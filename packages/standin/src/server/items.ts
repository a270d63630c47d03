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

const SOUNDS: Readonly<Record<string, readonly string[]>> = {
  bells: ['tin_bell', 'bell', 'harbour_bell', 'ferry_bell', 'hand_bell', 'last_bell'],
  water: ['splash', 'tide_in', 'tide_out', 'drip', 'oar_stroke', 'sluice'],
  work: ['kiln_door', 'hammer', 'saw', 'shovel', 'crate_open', 'crate_shut'],
  voices: ['call_far', 'call_near', 'gull', 'heron', 'bees', 'horn'],
}

/** The sounds the game can play: id and kind. */
export function soundRegistry(): { id: string; kind: string }[] {
  return Object.entries(SOUNDS).flatMap(([kind, ids]) => ids.map((id) => ({ id, kind })))
}

/** What can happen to a player for a while. */
export function effectRegistry(): { id: string }[] {
  return ['warm_hands', 'wet_feet', 'night_eyes', 'light_step', 'strong_arm', 'sea_legs', 'sweet_breath', 'slow_tide'].map((id) => ({ id }))
}
