import type { Services } from './services'

export async function loadDemoOnce(_services: Services): Promise<void> {}
