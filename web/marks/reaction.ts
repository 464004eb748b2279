/** How long a hand takes from hearing to pressing a key, in seconds: a mark that is made while it plays goes so much earlier. */
export const reaction = (): number => Number(localStorage.reaction ?? 0.4)
