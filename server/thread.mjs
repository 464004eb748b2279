// The beginning of every thread: reads TypeScript from here on, then runs the module it is for.
import { register } from 'tsx/esm/api'

register()
await import(process.argv[2])
