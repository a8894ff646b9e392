package mandala.server.draft;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.OptionalInt;
import java.util.stream.Stream;
import mandala.core.authority.Authority;
import mandala.core.authority.Refusal;
import mandala.core.authority.SecondApproval;
import mandala.core.change.Draft;
import mandala.core.change.Rebase;
import mandala.core.engine.Engine;
import mandala.core.model.Catalogue;
import mandala.core.model.check.Fault;
import mandala.core.model.check.ModelCheck;
import mandala.core.model.key.ResourceKey;
import mandala.core.question.Impact;
import mandala.core.question.Session;
import mandala.server.model.LiveModel;
import org.jspecify.annotations.Nullable;

/**
 * All that is to be said of a draft over a state of the model, before its impact. Made in a moment,
 * so that each edit can be answered; whether a second person must approve takes longer, and is kept
 * by {@link SecondApprovals}. Immutable.
 */
final class DraftReview {

  private final LiveModel.State state;
  private final Rebase rebase;
  private final Catalogue catalogue;
  private final @Nullable Engine after;
  private final List<Fault> faults;
  private final Authority authority;
  private final List<Refusal> refusals;
  private final SecondApproval second;
  private final Session author;
  private final Map<String, Integer> policy;
  private final String name;

  /**
   * Judges a draft; what clashes is left out of it.
   *
   * @param second over the same state
   * @param policy by root account how many people one person alone may give or take rights
   */
  DraftReview(
      LiveModel.State state,
      DraftRow row,
      Session author,
      SecondApproval second,
      Map<String, Integer> policy) {
    this.policy = policy;
    this.state = state;
    this.author = author;
    this.second = second;
    name = name(state, row, author, policy);
    Engine before = state.engine();
    rebase = Rebase.of(row.draft(), before.catalogue());
    Draft draft = rebase.draft();
    catalogue = draft.appliedUnchecked(before.catalogue());
    Engine made = null;
    List<Fault> found = List.of();
    try {
      made = draft.isEmpty() ? before : before.after(draft.inOrder());
    } catch (IllegalArgumentException e) {
      found = ModelCheck.faultsOf(catalogue.model());
      if (found.isEmpty()) {
        found = List.of(new Fault("$", String.valueOf(e.getMessage()), "Look at the draft again"));
      }
    }
    after = made;
    faults = found;
    authority = Authority.of(before, draft, author);
    List<Refusal> all = new ArrayList<>(authority.refusals());
    if (made != null && !draft.isEmpty()) {
      all.addAll(authority.ownerless(made));
    }
    refusals = List.copyOf(all);
  }

  /** {@return the state that it would change} */
  LiveModel.State state() {
    return state;
  }

  /** {@return the draft carried over to that state} */
  Rebase rebase() {
    return rebase;
  }

  /** {@return the model after it, faulty or not} */
  Catalogue catalogue() {
    return catalogue;
  }

  /** {@return an engine of the model after it}, null where it has faults */
  @Nullable Engine after() {
    return after;
  }

  /** {@return the faults of the model after it} */
  List<Fault> faults() {
    return faults;
  }

  /** {@return by which its author is judged} */
  Authority authority() {
    return authority;
  }

  /** {@return why the author may not make it} */
  List<Refusal> refusals() {
    return refusals;
  }

  /**
   * {@return a name for what is judged}: the same for the same content, author and policy over the
   * same revision
   */
  static String name(
      LiveModel.State state, DraftRow row, Session author, Map<String, Integer> policy) {
    return String.join(
        " ",
        row.content(),
        Long.toString(state.revision()),
        author.principal().value(),
        Boolean.toString(author.mfa()),
        String.valueOf(policy));
  }

  /** {@return its own name} */
  String name() {
    return name;
  }

  /** {@return the session in which its author is judged} */
  Session author() {
    return author;
  }

  /** {@return before when it stays as it is, while the model stays}: no window begins or ends */
  Instant sameUntil() {
    return second.sameUntil(draft(), author.at());
  }

  /**
   * {@return why a second person must approve}, none where nobody must; takes long in a large model
   *
   * @param watch asked whether to go on
   * @throws java.util.concurrent.CancellationException if not
   */
  List<SecondApproval.Reason> findReasons(Impact.Watch watch) {
    Engine made = after;
    if (made == null || draft().isEmpty()) {
      return List.of();
    }
    List<SecondApproval.Reason> all = new ArrayList<>(second.reasons(made, draft(), author, watch));
    OptionalInt atMost =
        roots().map(policy::get).filter(Objects::nonNull).mapToInt(Integer::intValue).min();
    if (atMost.isPresent()) {
      second.manyPeople(made, draft(), atMost.getAsInt(), author.at(), watch).ifPresent(all::add);
    }
    return all;
  }

  /** {@return the keys of the root accounts of what the draft names}, some more than once */
  Stream<String> roots() {
    return authority.named().stream().map(this::rootOf);
  }

  private String rootOf(ResourceKey resource) {
    Catalogue before = state.engine().catalogue();
    ResourceKey at = resource;
    for (ResourceKey up = at; up != null; up = before.has(up) ? before.parentOf(up) : null) {
      at = up;
    }
    return at.value().substring(at.value().indexOf(':') + 1);
  }

  /** {@return what can be made of the draft now} */
  Draft draft() {
    return rebase.draft();
  }

  /** {@return the hash of exactly that} */
  String content() {
    return DraftRow.contentOf(draft());
  }
}
