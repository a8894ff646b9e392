package mandala.server.review;

import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import mandala.core.change.Change;
import mandala.core.change.Draft;
import mandala.core.engine.Engine;
import mandala.core.model.Expectation;
import mandala.core.model.Kind;
import mandala.core.model.key.PrincipalKey;
import mandala.core.question.Impact;
import mandala.core.review.ItemStudy;
import mandala.server.authorization.RequestContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Works out what a reviewer's decisions do together, cut to what they may know. */
@Component
class DecisionEffects {

  private final ReviewStore store;
  private final EvidenceReader evidence;
  private final KnownItems known;

  DecisionEffects(ReviewStore store, EvidenceReader evidence, KnownItems known) {
    this.store = store;
    this.evidence = evidence;
    this.known = known;
  }

  /** {@return what the viewer has decided in a round and not finished} */
  List<RoundItem> decided(long round, RequestContext context) {
    return store.itemsOf(round, context.readPolicy().viewer().value()).stream()
        .filter(it -> it.state() == RoundItem.State.DECIDED)
        .toList();
  }

  /** What activates just-in-time access of what goes, so that it counts. */
  private List<Change> activating(List<RoundItem> decided, RequestContext context) {
    Engine engine = context.state().engine();
    ItemStudy study =
        new ItemStudy(
            engine,
            known.of(context.state(), context.readPolicy().now()),
            context.readPolicy().now());
    Draft on = Draft.EMPTY;
    Set<Change> seen = new HashSet<>();
    for (RoundItem it : decided) {
      if ("remove".equals(it.verdict()) && !it.control()) {
        for (Change change : study.activating(it.item())) {
          if (seen.add(change)) {
            on = on.with(change);
          }
        }
      }
    }
    return on.inOrder();
  }

  private List<Change> changes(List<RoundItem> decided, Engine engine, RequestContext context) {
    return DecidedChanges.of(
        decided,
        engine,
        context.readPolicy().now(),
        it -> evidence.findings(it, engine.catalogue()),
        known.of(context.state(), context.readPolicy().now()));
  }

  /** {@return what decisions do together}, as far as the viewer may know */
  ReviewController.DecisionEffect of(long round, List<RoundItem> decided, RequestContext context) {
    Engine real = context.state().engine();
    List<Change> on = activating(decided, context);
    Engine before = on.isEmpty() ? real : real.after(on);
    List<Change> changes = changes(decided, before, context);
    if (changes.isEmpty()) {
      return new ReviewController.DecisionEffect(
          decided.size(), 0, 0, 0, 0, false, false, List.of());
    }
    Engine after = after(before, changes);
    // expectations are asked with just-in-time access as it is
    Engine then = on.isEmpty() ? after : after(real, changes(decided, real, context));
    if (after == null || then == null) {
      return new ReviewController.DecisionEffect(
          decided.size(), changes.size(), 0, 0, 0, true, false, List.of());
    }
    Instant now = context.readPolicy().now().truncatedTo(ChronoUnit.SECONDS);
    Set<PrincipalKey> subjects = new HashSet<>();
    boolean ofMany = false;
    for (RoundItem it : decided) {
      it.item().whose().ifPresent(subjects::add);
      ofMany |= it.item().whose().isEmpty() && !"keep".equals(it.verdict());
    }
    List<PrincipalKey> told = new ArrayList<>(subjects);
    if (ofMany) {
      before.concerned(after, changes, now).stream()
          .filter(it -> !subjects.contains(it) && context.readPolicy().maySeeAllOf(it))
          .forEach(told::add);
    }
    told.removeIf(it -> !before.catalogue().principals().containsKey(it));
    Impact impact = before.impactOn(after, changes, now, true, told, Impact.Watch.TO_THE_END);
    long lost = impact.people().stream().mapToLong(Impact.Person::lost).sum();
    long gained = impact.people().stream().mapToLong(Impact.Person::gained).sum();
    return new ReviewController.DecisionEffect(
        decided.size(),
        changes.size(),
        impact.differing(),
        lost,
        gained,
        false,
        ofMany,
        broken(round, real, then, now, context));
  }

  /** The model after some changes, null where it would have faults. */
  private static @Nullable Engine after(Engine before, List<Change> changes) {
    try {
      return before.after(changes);
    } catch (IllegalArgumentException _) {
      return null;
    }
  }

  /** Expectations that hold before and would not after. */
  private List<ReviewController.BrokenExpectation> broken(
      long round, Engine before, Engine after, Instant now, RequestContext context) {
    Map<String, String> answers = store.answers(round, context.readPolicy().viewer().value());
    List<ReviewController.BrokenExpectation> broken = new ArrayList<>();
    for (Expectation it : before.catalogue().expectations().values()) {
      Expectation then = after.catalogue().expectations().get(it.key());
      if (then != null
          && !after.breaches(then, now).isEmpty()
          && before.breaches(it, now).isEmpty()) {
        boolean told = context.naming().tells(Kind.EXPECTATIONS, it.key().value());
        broken.add(
            new ReviewController.BrokenExpectation(
                told ? it.key().value() : context.mark("expectation " + it.key()),
                context.text().name(Kind.EXPECTATIONS, it.key().value()),
                told ? context.things().of(it) : null,
                answers.get(it.key().value())));
      }
    }
    return broken;
  }
}
