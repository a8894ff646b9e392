package mandala.core.engine;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.Collection;
import java.util.Comparator;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.IntStream;
import mandala.core.compiled.Snapshot;
import mandala.core.compiled.grants.GrantEntry;
import mandala.core.evaluate.AccessMap;
import mandala.core.evaluate.AccessMapCache;
import mandala.core.evaluate.PrincipalAtInstant;
import mandala.core.evaluate.ScopeExtents;
import mandala.core.evaluate.SessionResolution;
import mandala.core.model.Exclusion;
import mandala.core.model.Expectation;
import mandala.core.model.Subject;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.question.ExclusionViolation;
import mandala.core.question.ExpectationViolation;
import mandala.core.question.Session;
import mandala.core.question.WhoQuestion;
import mandala.core.table.IntList;
import mandala.core.whocan.WhoCan;
import org.jspecify.annotations.Nullable;

/**
 * Checks expectations and exclusions at an instant (sections 8 and 9), with the second factor of
 * those who are enrolled.
 *
 * <ol>
 *   <li>Whom to look at: members of the subjects, or those of whom who-can says that they may do
 *       any of it anywhere.
 *   <li>{@link ScopeExtents#places}: the places that a scope covers, seals not mattering.
 *   <li>Each one's access map is read within these places: {@link #allowed} counts, and finds the
 *       first.
 * </ol>
 */
final class RuleChecks {

  private final Snapshot it;
  private final java.time.Instant at;

  RuleChecks(Snapshot it, java.time.Instant at) {
    this.it = it;
    this.at = at;
  }

  // ---- expectations -----------------------------------------------------------------------------

  List<ExpectationViolation> breaches(Expectation expectation) {
    List<PermissionKey> permissions =
        expectation.permissions().stream().filter(it.rights.permissionId::containsKey).toList();
    if (permissions.isEmpty()) {
      return List.of();
    }
    BitSet scope = new ScopeExtents(it).places(expectation.scope());
    return switch (expectation.form()) {
      case CAN -> each(withSubjects(expectation.subjects()), permissions, scope, false);
      case CANNOT -> each(withSubjects(expectation.subjects()), permissions, scope, true);
      case ONLY -> {
        Set<Integer> subjects = withSubjects(expectation.subjects());
        Set<Integer> others = whoMay(permissions);
        others.removeAll(subjects);
        yield each(others, permissions, scope, true);
      }
      case COUNT -> counted(expectation, permissions, scope);
    };
  }

  /** Active principals that have one of some subjects; -1 is anonymous. */
  private Set<Integer> withSubjects(Collection<Subject> subjects) {
    Set<Integer> codes = new LinkedHashSet<>();
    subjects.forEach(subject -> codes.add(GrantEntry.code(subject, it.catalogue)));
    int[] found =
        IntStream.range(-1, it.directory.profiles.size())
            .parallel()
            .filter(p -> p < 0 || it.directory.profiles.get(p) != null)
            .filter(p -> {
              PrincipalAtInstant who = PrincipalAtInstant.of(it, p, at.getEpochSecond());
              return who.active && java.util.Arrays.stream(who.subjects).anyMatch(codes::contains);
            })
            .toArray();
    Set<Integer> all = new LinkedHashSet<>();
    IntStream.of(found).forEach(all::add);
    return all;
  }

  /** Active principals that may do any of it anywhere. */
  private Set<Integer> whoMay(Collection<PermissionKey> permissions) {
    Set<Integer> all = new LinkedHashSet<>();
    for (var account : it.catalogue.accounts().values()) {
      if (account.parent() == null) {
        WhoQuestion.Answer answer =
            new WhoCan(
                    it,
                    new WhoQuestion(
                        Set.copyOf(permissions),
                        new WhoQuestion.Where.Below(ResourceKey.of(account.key())),
                        at,
                        true),
                    WhoCan.FEW)
                .answer();
        if (answer.anonymous()) {
          all.add(-1);
        }
        answer.allowed().forEach(holder -> all.add(it.principal(holder.principal())));
      }
    }
    return all;
  }

  private PrincipalKey key(int principal) {
    return principal < 0
        ? PrincipalKey.ANONYMOUS
        : it.directory.profiles.require(principal).principal.key();
  }

  private AccessMap accessMap(int principal) {
    PrincipalAtInstant who = PrincipalAtInstant.of(it, principal, at.getEpochSecond());
    return who.active ? AccessMapCache.accessMap(who, who.hasFactor()) : AccessMap.EMPTY;
  }

  private List<ExpectationViolation> each(
      Set<Integer> principals, List<PermissionKey> permissions, BitSet scope, boolean forbidden) {
    return principals.parallelStream()
        .flatMap(principal -> {
          AccessMap accessMap = accessMap(principal);
          List<ExpectationViolation> found = new ArrayList<>();
          for (PermissionKey permission : permissions) {
            BitSet wrong = allowed(accessMap, List.of(permission));
            if (forbidden) {
              wrong.and(scope);
            } else {
              BitSet wanted = applicable(permission);
              wanted.and(scope);
              wanted.andNot(wrong);
              wrong = wanted;
            }
            if (!wrong.isEmpty()) {
              found.add(
                  new ExpectationViolation(
                      key(principal),
                      permission,
                      it.places.key(wrong.nextSetBit(0)),
                      wrong.cardinality()));
            }
          }
          return found.stream();
        })
        .sorted(Comparator.comparing(breach -> breach.principal() + "\n" + breach.permission()))
        .toList();
  }

  private BitSet applicable(PermissionKey permission) {
    BitSet positions = new BitSet();
    int p = it.rights.permissionId.getOrDefault(permission, -1);
    for (int type = 0; type < it.rights.types.size(); type++) {
      if (it.rights.bit[type][p] >= 0) {
        for (int position : it.places.ofType[type]) {
          positions.set(position);
        }
      }
    }
    return positions;
  }

  /** Where any of some permissions is allowed. */
  private BitSet allowed(AccessMap accessMap, Collection<PermissionKey> permissions) {
    BitSet positions = new BitSet();
    for (PermissionKey permission : permissions) {
      int p = it.rights.permissionId.getOrDefault(permission, -1);
      for (int type = 0; p >= 0 && type < it.rights.types.size(); type++) {
        int bit = it.rights.bit[type][p];
        if (bit >= 0) {
          int[] ofType = it.places.ofType[type];
          long mask = 1L << bit;
          accessMap.runs(
              it.rights.offset[type] + (bit >> 6),
              0,
              it.places.count,
              (start, end, number) -> {
                if ((accessMap.allowed(number) & mask) != 0) {
                  for (int i = IntList.lowerBound(ofType, start);
                      i < ofType.length && ofType[i] < end;
                      i++) {
                    positions.set(ofType[i]);
                  }
                }
              });
        }
      }
    }
    return positions;
  }

  private List<ExpectationViolation> counted(
      Expectation expectation, List<PermissionKey> permissions, BitSet scope) {
    int[] holders = new int[it.places.count];
    for (int principal : whoMay(permissions)) {
      if (principal >= 0) {
        BitSet there = allowed(accessMap(principal), permissions);
        there.and(scope);
        there.stream().forEach(position -> holders[position]++);
      }
    }
    BitSet asked = new BitSet();
    permissions.forEach(permission -> asked.or(applicable(permission)));
    asked.and(scope);
    int min = expectation.min() == null ? 0 : expectation.min();
    int max = expectation.max() == null ? Integer.MAX_VALUE : expectation.max();
    return asked.stream()
        .filter(position -> holders[position] < min || holders[position] > max)
        .mapToObj(position ->
            new ExpectationViolation(null, null, it.places.key(position), holders[position]))
        .toList();
  }

  // ---- exclusions -------------------------------------------------------------------------------

  List<ExclusionViolation> conflicts(Exclusion exclusion) {
    TreeMap<Integer, Integer> sidesTaken = new TreeMap<>();
    for (List<PermissionKey> side : exclusion.sides()) {
      List<PermissionKey> known =
          side.stream().filter(it.rights.permissionId::containsKey).toList();
      if (!known.isEmpty()) {
        whoMay(known).forEach(principal -> sidesTaken.merge(principal, 1, Integer::sum));
      }
    }
    return sidesTaken.entrySet().parallelStream()
        .filter(entry -> entry.getValue() > exclusion.atMost())
        .map(entry -> conflict(exclusion, entry.getKey()))
        .filter(java.util.Objects::nonNull)
        .sorted(Comparator.comparing(conflict -> conflict.principal().value()))
        .toList();
  }

  /** {@return how a principal breaks an exclusion}, null where it does not, or is exempt */
  private @Nullable ExclusionViolation conflict(Exclusion exclusion, int principal) {
    return conflict(exclusion, key(principal), List.of(accessMap(principal)));
  }

  /**
   * {@return how somebody breaks an exclusion by what is theirs, and what is another's for whom}
   */
  @Nullable ExclusionViolation conflictActing(
      Exclusion exclusion, PrincipalKey actor, PrincipalKey whose) {
    AccessMap acting =
        SessionResolution.of(it, new Session(actor, at, true, whose))
                instanceof SessionResolution.For session
            ? SessionResolution.accessMap(session)
            : AccessMap.EMPTY;
    return conflict(exclusion, actor, List.of(accessMap(it.principal(actor)), acting));
  }

  private @Nullable ExclusionViolation conflict(
      Exclusion exclusion, PrincipalKey key, List<AccessMap> maps) {
    boolean exempt =
        exclusion.exempt().stream()
            .anyMatch(each ->
                each.principal().equals(key)
                    && (each.until() == null || at.isBefore(each.until())));
    if (exempt) {
      return null;
    }
    List<BitSet> sides =
        exclusion.sides().stream()
            .map(side -> {
              BitSet at = new BitSet();
              maps.forEach(map -> at.or(allowed(map, side)));
              return switch (exclusion.where()) {
                case RESOURCE -> at;
                case ACCOUNT -> accounts(at);
                case ANYWHERE -> at;
              };
            })
            .toList();
    if (exclusion.where() == Exclusion.Where.ANYWHERE) {
      List<Integer> taken =
          IntStream.range(0, sides.size()).filter(s -> !sides.get(s).isEmpty()).boxed().toList();
      return taken.size() <= exclusion.atMost()
          ? null
          : new ExclusionViolation(
              key, it.places.key(sides.get(taken.getFirst()).nextSetBit(0)), taken, 1);
    }
    BitSet any = new BitSet();
    sides.forEach(any::or);
    int[] meets =
        any.stream().filter(where -> taken(sides, where).size() > exclusion.atMost()).toArray();
    return meets.length == 0
        ? null
        : new ExclusionViolation(
            key, it.places.key(meets[0]), taken(sides, meets[0]), meets.length);
  }

  private static List<Integer> taken(List<BitSet> sides, int where) {
    return IntStream.range(0, sides.size()).filter(s -> sides.get(s).get(where)).boxed().toList();
  }

  /** The positions of the accounts in which some positions lie. */
  private BitSet accounts(BitSet positions) {
    BitSet accounts = new BitSet();
    positions.stream()
        .forEach(position -> accounts.set(it.places.accountAt[it.places.account[position]]));
    return accounts;
  }
}
