import { useLayoutEffect } from 'react'
import { create } from 'zustand'

type Theme = 'day' | 'night'

const preferred = (): Theme => (matchMedia('(prefers-color-scheme: dark)').matches ? 'night' : 'day')

export const useTheme = create<{ theme: Theme }>(() => ({ theme: (localStorage.theme as Theme | undefined) ?? preferred() }))

const show = (theme: Theme) => (document.documentElement.dataset.theme = theme)
show(useTheme.getState().theme)

export function switchTheme(): void {
  const theme = useTheme.getState().theme === 'day' ? 'night' : 'day'
  localStorage.theme = theme
  show(theme)
  useTheme.setState({ theme })
}

/** Dark while a view is shown, whatever is chosen. */
export function useNight(): void {
  useLayoutEffect(() => {
    show('night')
    return () => void show(useTheme.getState().theme)
  }, [])
}

/** A colour of the theme that is shown, for what is drawn on a canvas. */
export const colour = (name: string): string => getComputedStyle(document.documentElement).getPropertyValue(`--${name}`).trim()
