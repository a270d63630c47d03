/** The pages that belong to no single server, for the frame and the menu of the account. */
export function housePages(isOwner: boolean): { readonly title: string; readonly to: string }[] {
  return [
    { title: 'Servers', to: '/servers' },
    { title: 'Plugin sites', to: '/sites' },
    { title: 'Families', to: '/families' },
    ...(isOwner
      ? [
          { title: 'People', to: '/people' },
          { title: 'Storage', to: '/storage' },
        ]
      : []),
    { title: 'Your account', to: '/account' },
  ]
}
