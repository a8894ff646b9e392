package mandala.core.shrink;

import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import mandala.core.change.Change;
import mandala.core.engine.Engine;
import mandala.core.excess.ExcessStudy;
import mandala.core.excess.Use;
import mandala.core.model.Assignment;
import mandala.core.model.Catalogue;
import mandala.core.model.Principal;
import mandala.core.model.Subject;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;

/**
 * Finds what somebody holds all the time and uses on few days, so that it may be made just-in-time
 * or be given an end (section 12, e). Only a person chooses this.
 */
public final class RarelyUsed {

  private RarelyUsed() {}

  /**
   * A standing assignment to one person alone that they use rarely.
   *
   * @param days on how many days of the window they used anything of it, at most
   * @param last when last
   */
  public record Rare(Assignment it, int days, LocalDate last) {}

  private record Right(PermissionKey permission, ResourceKey resource) {}

  /**
   * {@return what some people use on few days}, the rarest first; without that which a rule demands
   * to be held, and that by which the last owner of an account owns it
   *
   * @param engine of the model, from which that which nobody needs may be gone already
   * @param then of the model when the window began
   * @param most days on which it was used, counted for each right, so that several on one day count
   *     as several
   */
  public static List<Rare> of(
      Engine engine, Engine then, ShrinkOrder order, List<PrincipalKey> people, int most) {
    Catalogue catalogue = engine.catalogue();
    ExcessStudy study = engine.excess(then, order.use(), order.window());
    Soundness soundness = new Soundness(engine, study, order, false);
    List<Rare> found = new ArrayList<>();
    for (PrincipalKey who : people) {
      Principal principal = catalogue.principals().get(who);
      if (principal != null && principal.kind() == Principal.Kind.PERSON) {
        for (Rare it : ofOne(who, study, order.use(), catalogue)) {
          if (it.days() <= most
              && !order.untouched().test(it.it())
              && soundness.breaksNoRule(
                  engine.after(
                      List.of(
                          new Change.Altered(
                              it.it(), it.it().in(Assignment.Mode.JUST_IN_TIME)))))) {
            found.add(it);
          }
        }
      }
    }
    found.sort(Comparator.comparingInt(Rare::days).thenComparing(it -> it.it().key().value()));
    return found;
  }

  private static List<Rare> ofOne(
      PrincipalKey who, ExcessStudy study, Use use, Catalogue catalogue) {
    Map<Right, Use.Used> used = new HashMap<>();
    use.of(who).forEach(it -> used.put(new Right(it.permission(), it.resource()), it));
    Map<Integer, Integer> days = new HashMap<>();
    Map<Integer, LocalDate> last = new HashMap<>();
    study.eachKept(
        who,
        (permission, position, givers) -> {
          Use.Used it =
              used.get(new Right(study.permission(permission).key(), study.resource(position)));
          Set<Integer> seen = new HashSet<>();
          for (int i = 0; it != null && i < givers.size(); i++) {
            int ref = givers.ref(i);
            if (ref >= 0 && givers.now(i) && seen.add(ref)) {
              days.merge(ref, it.days(), Integer::sum);
              last.merge(ref, it.last(), (one, other) -> one.isAfter(other) ? one : other);
            }
          }
        });
    List<Rare> rare = new ArrayList<>();
    days.forEach((ref, many) -> {
      Assignment it = catalogue.assignments().at(ref);
      if (it != null
          && it.mode() == Assignment.Mode.STANDING
          && it.effect() == Assignment.Effect.ALLOW
          && it.window().until() == null
          && it.subject() instanceof Subject.OfPrincipal(var _, PrincipalKey key)
          && key.equals(who)) {
        rare.add(new Rare(it, many, Objects.requireNonNull(last.get(ref))));
      }
    });
    return rare;
  }
}
