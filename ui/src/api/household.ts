import { useQuery } from '@tanstack/vue-query'

import { api, take, type Schemas } from './client'
import { queryClient } from './queries'

export type Account = Schemas['Account']
export type People = Schemas['People']

export const useAccount = () => useQuery({ queryKey: ['account'], queryFn: () => take(api.GET('/api/account')) })
export const usePeople = () => useQuery({ queryKey: ['members'], queryFn: () => take(api.GET('/api/members')) })
export const useWayIn = () => useQuery({ queryKey: ['way-in'], queryFn: () => take(api.GET('/api/way-in')) })
export const useInvitations = (enabled: boolean) =>
  useQuery({ queryKey: ['invitations'], queryFn: () => take(api.GET('/api/invitations')), enabled })

/** What an act on an account gives back is what stands now. */
export const accountIs = (a: Account): void => void queryClient.setQueryData(['account'], a)
export const peopleAre = (p: People): void => void queryClient.setQueryData(['members'], p)
export const invitationsAre = (i: Schemas['Invitation'][]): void => void queryClient.setQueryData(['invitations'], i)

/** The address at which a code is used here; behind the number sign no server and no log sees it. */
export const joinAddress = (code: string, origin = location.origin): string => `${origin}/join#${code}`
