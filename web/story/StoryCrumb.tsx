import { Crumb } from '../shell/Shell'
import { useStoryName } from './StoryFigures'

/** From a piece or a tape back to its story. */
export function StoryCrumb({ id }: { id: string }) {
  return <Crumb to={`/stories/${id}`}>{useStoryName(id)}</Crumb>
}
