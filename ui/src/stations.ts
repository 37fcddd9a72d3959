import type { Component } from 'vue'

/** One page of the application: where it is, what draws it, and what it reads first. */
export interface Station {
  path: string
  name: string
  title: string
  load: () => Promise<Component>
  /** What it asks the server for, beside what every page does; id is the one in its path. */
  reads?: (id: string) => string[]
}

/** Every page, the more particular path after the general one. */
export const stations: Station[] = [
  { path: '/', name: 'shelf', title: 'Shelf', load: () => import('./stations/shelf/ShelfStation.vue') },
  {
    path: '/mothers',
    name: 'mothers',
    title: 'Mothers',
    load: () => import('./stations/mothers/MothersStation.vue'),
    reads: () => ['/api/mothers'],
  },
  {
    path: '/mothers/:id',
    name: 'mother',
    title: 'Mother',
    load: () => import('./stations/mothers/MotherStation.vue'),
    reads: (id) => [`/api/mothers/${id}`],
  },
  {
    path: '/mothers/:motherId/stems/:id',
    name: 'stem',
    title: 'Map a stem',
    load: () => import('./stations/mothers/StemStation.vue'),
    reads: (id) => [`/api/stems/${id}`],
  },
  { path: '/cut', name: 'cut', title: 'Cut', load: () => import('./stations/cut/CutChoice.vue'), reads: () => ['/api/mothers'] },
  {
    path: '/cut/:id',
    name: 'cut-stem',
    title: 'Cut',
    load: () => import('./stations/cut/CutStation.vue'),
    reads: (id) => [`/api/stems/${id}`],
  },
  {
    path: '/prepare/:id',
    name: 'prepare',
    title: 'Prepare',
    load: () => import('./stations/prepare/PrepareStation.vue'),
    reads: (id) => [`/api/plans/${id}`],
  },
  { path: '/offer', name: 'offer', title: 'Worth it?', load: () => import('./stations/offer/OfferStation.vue') },
  { path: '/files', name: 'files', title: 'In and out', load: () => import('./stations/files/FilesStation.vue') },
  { path: '/bring-in', name: 'bring-in', title: 'Bring in a piece', load: () => import('./stations/bring/BringInStation.vue') },
  {
    path: '/round',
    name: 'round',
    title: 'Round',
    load: () => import('./stations/round/RoundStation.vue'),
    reads: () => ['/api/round', '/api/handbook'],
  },
  {
    path: '/vessels/:id',
    name: 'vessel',
    title: 'Vessel',
    load: () => import('./stations/vessel/VesselStation.vue'),
    reads: (id) => [`/api/vessels/${id}`],
  },
  {
    path: '/ahead',
    name: 'ahead',
    title: 'The coming weeks',
    load: () => import('./stations/ahead/AheadStation.vue'),
    reads: () => ['/api/ahead'],
  },
  {
    path: '/groups/:id',
    name: 'group',
    title: 'Growth group',
    load: () => import('./stations/group/GroupStation.vue'),
    reads: (id) => [`/api/groups/${id}`],
  },
  {
    path: '/expecting',
    name: 'expecting',
    title: 'How it is worked out',
    load: () => import('./stations/expecting/ExpectingStation.vue'),
  },
  {
    path: '/places/:id',
    name: 'place',
    title: 'The air of a shelf',
    load: () => import('./stations/place/PlaceStation.vue'),
    reads: (id) => [`/api/places/${id}/climate?days=3`],
  },
  {
    path: '/together',
    name: 'together',
    title: 'Several at once',
    load: () => import('./stations/together/TogetherStation.vue'),
  },
  { path: '/set', name: 'set', title: 'Set', load: () => import('./stations/set/SetStation.vue') },
  {
    path: '/cuttings/:id',
    name: 'cutting',
    title: 'Cutting',
    load: () => import('./stations/cutting/CuttingStation.vue'),
    reads: (id) => [`/api/cuttings/${id}`],
  },
  {
    path: '/cuttings/:id/look',
    name: 'look',
    title: 'Look',
    load: () => import('./stations/photo/LookStation.vue'),
    reads: (id) => [`/api/cuttings/${id}`],
  },
  { path: '/photo', name: 'photo', title: 'Photo', load: () => import('./stations/photo/PhotoStation.vue') },
  { path: '/potup', name: 'potup', title: 'Pot up', load: () => import('./stations/potup/PotUpStation.vue') },
  {
    path: '/numbers',
    name: 'numbers',
    title: 'Numbers',
    load: () => import('./stations/numbers/NumbersStation.vue'),
    reads: () => ['/api/planner-numbers'],
  },
  {
    path: '/mix',
    name: 'mix',
    title: 'Mixing corner',
    load: () => import('./stations/mix/MixStation.vue'),
    reads: () => ['/api/calculators'],
  },
  {
    path: '/household',
    name: 'household',
    title: 'Household',
    load: () => import('./stations/household/HouseholdStation.vue'),
    reads: () => ['/api/account', '/api/members'],
  },
  { path: '/join', name: 'join', title: 'Come in', load: () => import('./stations/door/DoorPage.vue') },
  { path: '/about', name: 'about', title: 'About', load: () => import('./stations/about/AboutStation.vue') },
  { path: '/:anything(.*)*', name: 'nowhere', title: 'Not here', load: () => import('./kit/NotHere.vue') },
]

/** The page at a path of the address, and the id in it. */
export function stationAt(pathname: string): { station: Station; id: string } | undefined {
  for (const station of stations) {
    const pattern = station.path.replace('/:anything(.*)*', '/.*').replace(/:(\w+)/g, '(?<$1>[^/]+)')
    const found = new RegExp(`^${pattern}/?$`).exec(pathname)
    if (found) return { station, id: found.groups?.['id'] ?? '' }
  }
  return undefined
}
