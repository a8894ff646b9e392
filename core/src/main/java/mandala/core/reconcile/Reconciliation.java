package mandala.core.reconcile;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Collections;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import mandala.core.engine.Engine;
import mandala.core.model.Catalogue;
import mandala.core.model.Permission;
import mandala.core.model.Principal;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.present.Access;
import mandala.core.question.Session;
import mandala.core.question.Verdict;

/**
 * Compares what another system says its people hold with what the model allows at an instant: to
 * each active principal, for themselves, with a second factor and with what is activated. Only what
 * the terms name is compared: the permissions that some entitlement means, on the resources that
 * some place covers and to which they apply.
 */
public final class Reconciliation {

  private final Engine engine;
  private final Instant at;
  private final Terms terms;

  /** Resources on which a permission is compared, in the order of their keys. */
  private final Map<PermissionKey, Set<ResourceKey>> compared = new LinkedHashMap<>();

  private final Map<Terms.Area, Set<ResourceKey>> covered = new HashMap<>();
  private final Identities identities;

  private Reconciliation(Engine engine, Instant at, Terms terms) {
    this.engine = engine;
    this.at = at;
    this.terms = terms;
    this.identities = new Identities(engine.catalogue(), terms);
  }

  /**
   * What came of it.
   *
   * @param discrepancies by person, permission and kind; then identities, by name
   * @param agreeing how many people hold a permission in exactly the same places
   * @param lines how many lines there were
   * @param untranslated entitlements and places that the terms don't list, with how many lines
   *     each; these lines were not compared
   */
  public record Answer(
      List<Discrepancy> discrepancies, int agreeing, int lines, Map<String, Integer> untranslated) {
    /** Copies its lists. */
    public Answer {
      discrepancies = List.copyOf(discrepancies);
      untranslated = Collections.unmodifiableMap(new TreeMap<>(untranslated));
    }
  }

  /**
   * {@return the discrepancies}
   *
   * @throws IllegalArgumentException if the terms name something that the model does not have
   */
  public static Answer of(Engine engine, Instant at, Terms terms, Collection<HeldLine> lines) {
    return new Reconciliation(engine, at, terms).answer(lines);
  }

  private Answer answer(Collection<HeldLine> lines) {
    prepare();
    Map<PrincipalKey, Map<PermissionKey, Set<ResourceKey>>> held = new HashMap<>();
    Map<String, Integer> unknown = new TreeMap<>();
    Map<String, Integer> orphaned = new TreeMap<>();
    Map<String, Integer> untranslated = new TreeMap<>();
    for (HeldLine line : lines) {
      PrincipalKey who = identities.of(line.identity());
      List<PermissionKey> permissions = terms.entitlements().get(line.entitlement());
      Terms.Area area = terms.places().get(line.place());
      terms.lacking(line).forEach(it -> untranslated.merge(it, 1, Integer::sum));
      if (who == null) {
        unknown.merge(line.identity(), 1, Integer::sum);
      } else if (!engine.isActive(who, at)) {
        orphaned.merge(line.identity(), 1, Integer::sum);
      } else if (permissions != null && area != null) {
        for (PermissionKey it : permissions) {
          Set<ResourceKey> places =
              held.computeIfAbsent(who, _ -> new HashMap<>())
                  .computeIfAbsent(it, _ -> new TreeSet<>(ORDER));
          covered(area).stream().filter(comparedOn(it)::contains).forEach(places::add);
        }
      }
    }
    List<Discrepancy> found = new ArrayList<>();
    int agreeing = 0;
    for (Principal it : inOrder(engine.catalogue())) {
      if (engine.isActive(it.key(), at)) {
        agreeing += compare(it.key(), held.getOrDefault(it.key(), Map.of()), found);
      }
    }
    unknown.forEach((identity, many) -> found.add(new Discrepancy.UnknownPerson(identity, many)));
    orphaned.forEach((identity, many) ->
        found.add(
            new Discrepancy.Orphaned(
                identity, Objects.requireNonNull(identities.of(identity)), many)));
    return new Answer(found, agreeing, lines.size(), untranslated);
  }

  private static final Comparator<ResourceKey> ORDER = Comparator.comparing(ResourceKey::value);

  private static List<Principal> inOrder(Catalogue catalogue) {
    return catalogue.principals().values().stream()
        .sorted(Comparator.comparing(it -> it.key().value()))
        .toList();
  }

  private void prepare() {
    Set<ResourceKey> all = new TreeSet<>(ORDER);
    terms.places().values().forEach(it -> all.addAll(covered(it)));
    Catalogue catalogue = engine.catalogue();
    Set<PermissionKey> permissions = new TreeSet<>(Comparator.comparing(PermissionKey::value));
    terms.entitlements().values().forEach(permissions::addAll);
    for (PermissionKey it : permissions) {
      Permission permission = catalogue.permissions().get(it);
      if (permission == null) {
        throw new IllegalArgumentException("There is no permission '" + it + "'");
      }
      Set<ResourceKey> on = new LinkedHashSet<>();
      for (ResourceKey place : all) {
        if (permission.on().contains(catalogue.typeOf(place))) {
          on.add(place);
        }
      }
      compared.put(it, on);
    }
  }

  private Set<ResourceKey> comparedOn(PermissionKey permission) {
    return compared.getOrDefault(permission, Set.of());
  }

  private Set<ResourceKey> covered(Terms.Area area) {
    return covered.computeIfAbsent(
        area,
        it -> {
          Catalogue catalogue = engine.catalogue();
          if (!catalogue.has(it.top())) {
            throw new IllegalArgumentException("There is no place '" + it.top() + "'");
          }
          Set<ResourceKey> places = new TreeSet<>(ORDER);
          places.add(it.top());
          if (it.below()) {
            catalogue.resources().keySet().stream()
                .filter(key -> isBelow(key, it.top(), catalogue))
                .forEach(places::add);
          }
          return places;
        });
  }

  private static boolean isBelow(ResourceKey key, ResourceKey top, Catalogue catalogue) {
    for (ResourceKey at = catalogue.parentOf(key); at != null; at = catalogue.parentOf(at)) {
      if (at.equals(top)) {
        return true;
      }
    }
    return false;
  }

  /** Compares one person; returns in how many permissions that they hold both agree. */
  private int compare(
      PrincipalKey who, Map<PermissionKey, Set<ResourceKey>> held, List<Discrepancy> found) {
    Access access = engine.access(new Session(who, at, true, null));
    int agreeing = 0;
    for (Map.Entry<PermissionKey, Set<ResourceKey>> it : compared.entrySet()) {
      PermissionKey permission = it.getKey();
      List<ResourceKey> missing = new ArrayList<>();
      List<ResourceKey> extra = new ArrayList<>();
      Set<ResourceKey> there = held.getOrDefault(permission, Set.of());
      boolean any = false;
      for (ResourceKey place : it.getValue()) {
        boolean allowed = access.verdict(permission, place) == Verdict.ALLOWED;
        any |= allowed;
        if (allowed && !there.contains(place)) {
          missing.add(place);
        } else if (!allowed && there.contains(place)) {
          extra.add(place);
        }
      }
      if (missing.isEmpty() && extra.isEmpty()) {
        agreeing += any ? 1 : 0;
      } else if (there.isEmpty()) {
        found.add(new Discrepancy.Missing(who, permission, List.copyOf(missing)));
      } else if (!any) {
        found.add(new Discrepancy.Extra(who, permission, List.copyOf(extra)));
      } else {
        found.add(
            new Discrepancy.Different(who, permission, List.copyOf(missing), List.copyOf(extra)));
      }
    }
    return agreeing;
  }
}
