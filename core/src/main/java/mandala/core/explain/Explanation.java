package mandala.core.explain;

import java.util.List;
import mandala.core.question.Question;

/**
 * Why, and why not.
 *
 * @param live the routes that give it now, the shortest first
 * @param near those that would but do not, those with the fewest obstacles first; of what only
 *     others are given, what is assigned nearest to the resource
 * @param more how much more is given to others only, from farther above
 */
public record Explanation(Question question, List<Route> live, List<Route> near, int more) {

  /** Copies its lists. */
  public Explanation {
    live = List.copyOf(live);
    near = List.copyOf(near);
  }

  /** {@return whether it is allowed}: exactly where some route is live */
  public boolean allowed() {
    return !live.isEmpty();
  }
}
