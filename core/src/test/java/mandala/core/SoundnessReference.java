package mandala.core;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import java.util.TreeSet;
import mandala.core.excess.UseCoverage;
import mandala.core.excess.UseRecord;
import mandala.core.excess.UseWindow;
import mandala.core.model.AccessModel;
import mandala.core.model.Activation;
import mandala.core.model.Assignment;
import mandala.core.model.Catalogue;
import mandala.core.model.Delegation;
import mandala.core.model.Kind;
import mandala.core.model.Principal;
import mandala.core.model.Thing;
import mandala.core.model.WindowEdges;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.question.Question;
import mandala.core.question.Verdict;
import org.jspecify.annotations.Nullable;

/**
 * What makes a smaller model sound (section 12), asked one right after the other of the naive
 * reference. It shares no code with {@code core.shrink}.
 */
final class SoundnessReference {

  private final AccessModel before;
  private final AccessModel after;
  private final List<UseRecord> records;
  private final UseWindow window;
  private final ExcessReference needs;
  private final List<PrincipalKey> people = new ArrayList<>();
  private final Set<Instant> edges = new TreeSet<>();

  SoundnessReference(
      AccessModel before,
      AccessModel after,
      List<UseRecord> records,
      UseWindow window,
      UseCoverage coverage) {
    this.before = before;
    this.after = after;
    this.records = records;
    this.window = window;
    needs = new ExcessReference(before, before, records, window, coverage);
    before.principals().stream().map(Principal::key).forEach(people::add);
    people.add(PrincipalKey.ANONYMOUS);
    for (AccessModel it : List.of(before, after)) {
      WindowEdges.of(new Catalogue(it)).stream()
          .filter(edge -> edge.isAfter(window.at()))
          .forEach(edges::add);
    }
    edges.add(window.at());
  }

  /** What is not as it must be, in words; none where the model after is sound. */
  List<String> faults() {
    List<String> faults = new ArrayList<>();
    Reference was = new Reference(before);
    Reference is = new Reference(after);
    Reference wasOn = new Reference(switchedOn(before));
    Reference isOn = new Reference(switchedOn(after));
    for (PrincipalKey who : people) {
      ExcessReference.Parts parts = needs.of(who);
      Set<List<String>> kept = new HashSet<>(parts.need());
      kept.addAll(parts.young());
      kept.addAll(parts.unobserved());
      for (String permission : was.permissionKeys()) {
        for (String place : was.placeKeys()) {
          if (was.applies(permission, place)) {
            boolean needed = kept.contains(List.of(permission, place));
            for (Instant edge : edges) {
              for (boolean factor : List.of(true, false)) {
                Question asked = question(who, permission, place, edge, factor, null);
                compare(asked, was, is, needed, faults);
                boolean used = factor && edge.equals(window.at()) && isUsed(asked);
                compare(asked, wasOn, isOn, used, faults);
              }
            }
          }
        }
      }
    }
    for (Delegation it : before.delegations()) {
      compareFor(it, was, is, faults);
    }
    return faults;
  }

  private void compareFor(Delegation it, Reference was, Reference is, List<String> faults) {
    for (String permission : was.permissionKeys()) {
      for (String place : was.placeKeys()) {
        if (was.applies(permission, place)) {
          for (Instant edge : edges) {
            for (boolean factor : List.of(true, false)) {
              Question asked =
                  question(it.delegate(), permission, place, edge, factor, it.principal());
              boolean used = factor && edge.equals(window.at()) && isUsed(asked);
              compare(asked, was, is, used, faults);
            }
          }
        }
      }
    }
  }

  private static void compare(
      Question asked, Reference was, Reference is, boolean needed, List<String> faults) {
    boolean before = was.verdict(asked) == Verdict.ALLOWED;
    boolean after = is.verdict(asked) == Verdict.ALLOWED;
    if (after && !before) {
      faults.add("gained: " + asked);
    }
    if (before && !after && needed) {
      faults.add("needed and lost: " + asked);
    }
  }

  private boolean isUsed(Question asked) {
    return records.stream()
        .anyMatch(it ->
            window.contains(it.day())
                && !needs.isStranger(it)
                && it.principal().equals(asked.principal())
                && it.permission().equals(asked.permission())
                && it.resource().equals(asked.resource())
                && Objects.equals(it.actingFor(), asked.actingFor()));
  }

  private static Question question(
      PrincipalKey who,
      String permission,
      String place,
      Instant at,
      boolean factor,
      @Nullable PrincipalKey actingFor) {
    return new Question(
        who, new PermissionKey(permission), new ResourceKey(place), at, factor, actingFor);
  }

  /** The model with no activations and everything standing that is just-in-time. */
  private static AccessModel switchedOn(AccessModel model) {
    AccessModel.Builder builder = AccessModel.builder();
    for (Kind kind : Kind.values()) {
      for (Thing it : model.things(kind)) {
        if (!(it instanceof Activation)) {
          builder.add(it instanceof Assignment assignment ? assignment.standing() : it);
        }
      }
    }
    return builder.build();
  }

  /** The exposure of what all have, and of what they need. */
  List<Long> exposure() {
    ExcessReference later =
        new ExcessReference(after, after, records, window, UseCoverage.COMPLETE);
    long all = 0;
    long smaller = 0;
    long floor = 0;
    for (PrincipalKey who : people) {
      ExcessReference.Parts parts = needs.of(who);
      all += needs.exposure(parts.effective());
      floor += needs.exposure(parts.effective()) - needs.exposure(parts.excess());
      smaller += later.exposure(later.of(who).effective());
    }
    return List.of(all, smaller, floor);
  }
}
