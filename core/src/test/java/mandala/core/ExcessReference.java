package mandala.core;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import mandala.core.excess.UseCoverage;
import mandala.core.excess.UseRecord;
import mandala.core.excess.UseWindow;
import mandala.core.model.AccessModel;
import mandala.core.model.Permission;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.question.Question;
import mandala.core.question.Verdict;

/**
 * Section 12 read aloud: sets of pairs of permission and resource, grown until nothing is added. It
 * shares no code with {@code core.excess}.
 */
final class ExcessReference {

  private final AccessModel model;
  private final Reference now;
  private final Reference then;
  private final List<UseRecord> records;
  private final UseWindow window;
  private final UseCoverage coverage;

  ExcessReference(
      AccessModel model,
      AccessModel before,
      List<UseRecord> records,
      UseWindow window,
      UseCoverage coverage) {
    this.coverage = coverage;
    this.model = model;
    this.now = new Reference(model);
    this.then = new Reference(before);
    this.records = records;
    this.window = window;
  }

  /** Need, young, what is not observed and excess of a principal, and all that is effective. */
  record Parts(
      Set<List<String>> effective,
      Set<List<String>> need,
      Set<List<String>> young,
      Set<List<String>> unobserved,
      Set<List<String>> excess) {}

  Parts of(PrincipalKey who) {
    Set<List<String>> effective = effective(now, who, window.at());
    Set<List<String>> before =
        effective(then, who, window.at().minusSeconds(window.days() * 86_400L));
    Set<List<String>> need = new HashSet<>();
    for (List<String> right : effective) {
      if (isUsed(who, right) || isDemanded(who, right)) {
        need.add(right);
      }
    }
    grow(need, effective);
    Set<List<String>> rest = without(effective, need);
    Set<List<String>> young = without(rest, before);
    grow(young, rest);
    Set<List<String>> old = without(rest, young);
    Set<List<String>> unobserved = new HashSet<>();
    for (List<String> right : old) {
      if (!isObserved(right)) {
        unobserved.add(right);
      }
    }
    grow(unobserved, old);
    return new Parts(effective, need, young, unobserved, without(old, unobserved));
  }

  private boolean isObserved(List<String> right) {
    for (UseCoverage.Part part : coverage.parts()) {
      boolean what = part.permissions() == null;
      boolean where = part.places() == null;
      for (PermissionKey each : what ? Set.<PermissionKey>of() : part.permissions()) {
        what |= each.value().equals(right.get(0));
      }
      for (ResourceKey each : where ? Set.<ResourceKey>of() : part.places()) {
        where |= now.placeKeys().contains(each.value()) && now.isWithin(right.get(1), each.value());
      }
      boolean whole =
          part.since() == null
              || part.since().toEpochDay() <= window.last().toEpochDay() - window.days() + 1;
      if (what && where && whole) {
        return true;
      }
    }
    return false;
  }

  private static Set<List<String>> without(Set<List<String>> all, Set<List<String>> some) {
    Set<List<String>> rest = new HashSet<>(all);
    rest.removeAll(some);
    return rest;
  }

  /** Adds what comes with what is there, within a limit, until nothing is added. */
  private void grow(Set<List<String>> set, Set<List<String>> within) {
    boolean grows = true;
    while (grows) {
      grows = false;
      for (List<String> right : new ArrayList<>(set)) {
        for (List<String> other : now.comesWith(right.get(0), right.get(1))) {
          grows |= within.contains(other) && set.add(other);
        }
      }
    }
  }

  private boolean isUsed(PrincipalKey who, List<String> right) {
    return records.stream()
        .anyMatch(it ->
            window.contains(it.day())
                && it.whose().equals(who)
                && it.permission().value().equals(right.get(0))
                && it.resource().value().equals(right.get(1))
                && !isStranger(it));
  }

  /** Whether a record names what the model lacks, anywhere. */
  boolean isStranger(UseRecord it) {
    return !isKnown(it.principal())
        || (it.actingFor() != null && !isKnown(it.actingFor()))
        || !now.permissionKeys().contains(it.permission().value())
        || !now.placeKeys().contains(it.resource().value());
  }

  private boolean isKnown(PrincipalKey who) {
    return who.equals(PrincipalKey.ANONYMOUS)
        || model.principals().stream().anyMatch(it -> it.key().equals(who));
  }

  private boolean isDemanded(PrincipalKey who, List<String> right) {
    return model.expectations().stream()
        .anyMatch(it -> now.demands(it, who.value(), right.get(0), right.get(1), window.at()));
  }

  private static Set<List<String>> effective(Reference by, PrincipalKey who, Instant at) {
    Set<List<String>> rights = new HashSet<>();
    for (String permission : by.permissionKeys()) {
      for (String place : by.placeKeys()) {
        Question question =
            new Question(
                who, new PermissionKey(permission), new ResourceKey(place), at, true, null);
        if (by.applies(permission, place) && by.verdict(question) == Verdict.ALLOWED) {
          rights.add(List.of(permission, place));
        }
      }
    }
    return rights;
  }

  /** What rights weigh: 1, 3, 10 or 30 each. */
  long exposure(Set<List<String>> rights) {
    long sum = 0;
    for (List<String> right : rights) {
      Permission.Risk risk = now.permission(new PermissionKey(right.get(0))).risk();
      sum += List.of(1, 3, 10, 30).get(risk.ordinal());
    }
    return sum;
  }
}
