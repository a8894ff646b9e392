package mandala.core.compiled.grants;

import mandala.core.compiled.space.Spans;
import mandala.core.model.Clause;

/**
 * A clause in numbers: where its fixed terms hold, and what it asks of the principal besides
 * (section 4). Clauses that are one resource's tree, one resource or one account need none: a grant
 * entry says it all ({@link GrantEntry}).
 *
 * @param clause the clause
 * @param within the account that it is confined to, or -1: where relative terms stay at home, or a
 *     bridge's target
 * @param spans where its fixed terms hold, confined
 * @param type the only type it covers, or -1 for all
 * @param flags what {@link GrantEntry} says of it: relative terms, several spans, floors, a type
 */
public record CompiledClause(Clause clause, int within, Spans spans, int type, int flags) {

  /** {@return whether the fixed terms cover a position of a type} */
  public boolean test(int at, int typeThere) {
    return (type < 0 || type == typeThere) && spans.find(at) >= 0;
  }

  /** {@return first start and last end of the spans}, packed; 0 where there are none */
  public long bounds() {
    return spans.size() == 0 ? 0 : GrantEntry.span(spans.start[0], spans.end[spans.size() - 1], 0);
  }
}
