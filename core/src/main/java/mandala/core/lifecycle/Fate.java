package mandala.core.lifecycle;

import java.time.Instant;
import mandala.core.model.Principal;

/** What becomes of a tie. */
public sealed interface Fate {

  /** It stays. */
  record Keep() implements Fate {}

  /** It ends with the act. */
  record End() implements Fate {}

  /** It stays until an instant. */
  record KeepUntil(Instant at) implements Fate {}

  /** Somebody else has it instead. */
  record HandTo(Principal to) implements Fate {}

  /** Does it to a tie. */
  default void of(Tie tie, Principal whose, TieChanges changes) {
    switch (this) {
      case Keep() -> {}
      case End() -> tie.end(changes, whose);
      case KeepUntil(Instant at) -> tie.endAt(changes, whose, at);
      case HandTo(Principal to) -> tie.hand(changes, whose, to);
    }
  }
}
