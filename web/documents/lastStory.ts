/** The story that one works on, so that what is pulled from a tape goes to it. */
export const keep = {
  story: (): string | null => (localStorage.story as string | undefined) ?? null,
  setStory: (id: string): void => {
    localStorage.story = id
  },
}
