/** What cards are called, by the name of their result. */
import { splitFeed } from '../../model/document'
import { useCatalogue } from '../../stores/useCatalogue'
import { useGraph } from '../../stores/useGraph'

export function useTitles(): (feed: string) => string {
  const graph = useGraph()
  const { operatorOf } = useCatalogue()
  return (feed) => {
    const node = graph.document.value.nodes[splitFeed(feed).from]
    return node?.title || operatorOf(node)?.label || feed
  }
}
