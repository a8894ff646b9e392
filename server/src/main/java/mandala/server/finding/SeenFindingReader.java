package mandala.server.finding;

import java.util.ArrayList;
import java.util.Collection;
import java.util.Collections;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import mandala.core.compliance.Finding;
import mandala.core.detect.Detection;
import mandala.core.detect.Harm;
import mandala.core.model.Catalogue;
import mandala.core.model.Exclusion;
import mandala.core.model.Permission;
import mandala.core.model.Principal;
import mandala.core.model.Supplied;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.Key;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.document.Naming;
import mandala.document.TroubleText;
import mandala.server.authorization.ReadPolicy;
import mandala.server.authorization.RequestContext;
import mandala.server.compliance.BrokenRules;
import mandala.server.compliance.SeenFindings;
import mandala.server.platform.Problem;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/**
 * Reads findings as a viewer may know them (section 11): those of whose people they may see all
 * access, whose things they may all read.
 */
@Component
class SeenFindingReader {

  private final FindingStore store;
  private final BrokenRules rules;

  SeenFindingReader(FindingStore store, BrokenRules rules) {
    this.store = store;
    this.rules = rules;
  }

  /**
   * Findings.
   *
   * @param known what was found at the last look, told or not
   * @param findings that may be told, the worst first, then those that were resolved
   * @param elsewhere whether there are others
   */
  record Seen(FindingStore.Known known, List<SeenFinding> findings, boolean elsewhere) {}

  /**
   * {@return the findings that a viewer may know}
   *
   * @throws Problem if they may read nobody
   */
  Seen read(RequestContext context) {
    if (!context.readPolicy().mayReadAnybody()) {
      throw Problem.forbidden(
          "Your access does not cover the findings of any account. Ask a security administrator.");
    }
    Map<String, FindingState> states = store.states();
    Catalogue catalogue = context.state().engine().catalogue();
    List<SeenFinding> all = new ArrayList<>();
    SeenFindings broken = rules.seen(context);
    Map<String, BrokenRules.Since> since = rules.since();
    for (SeenFindings.Seen it : broken.told()) {
      BrokenRules.Since began = since.get(it.whole().id());
      all.add(rule(it, began, states, catalogue));
    }
    boolean elsewhere = broken.elsewhere();
    FindingStore.Known known = store.known();
    Told told = new Told(context);
    for (KeptFinding it : known.findings()) {
      if (told.mayBeTold(it.it())) {
        all.add(detected(it, states, catalogue));
      } else {
        elsewhere |= it.resolvedAt() == null;
      }
    }
    all.sort(
        Comparator.comparing((SeenFinding it) -> it.resolvedAt() != null)
            .thenComparing(SeenFinding::risk, Collections.reverseOrder()));
    return new Seen(known, all, elsewhere);
  }

  /**
   * {@return some findings by the ids that a viewer has of them}
   *
   * @throws Problem if there is none of an id that they may see
   */
  List<SeenFinding> require(Collection<String> ids, RequestContext context) {
    List<SeenFinding> all = read(context).findings();
    Map<String, SeenFinding> known = new HashMap<>();
    Set<String> wanted = Set.copyOf(ids);
    all.stream()
        .filter(it -> wanted.contains(it.id()) && it.isPlain(context))
        .forEach(it -> known.put(it.id(), it));
    if (!known.keySet().containsAll(wanted)) { // some are marks, which take long to make
      all.forEach(it -> known.put(it.idFor(context), it));
    }
    List<SeenFinding> some = new ArrayList<>();
    for (String id : new LinkedHashSet<>(ids)) {
      SeenFinding it = known.get(id);
      if (it == null) {
        throw Problem.notFound(
            "There is no finding '" + id + "' that you may see. Reload the list.");
      }
      some.add(it);
    }
    return some;
  }

  private static SeenFinding detected(
      KeptFinding kept, Map<String, FindingState> states, Catalogue catalogue) {
    Detection it = kept.it();
    Key about = it.trouble().about();
    return new SeenFinding(
        it.id(),
        it.trouble().detector().key(),
        it.trouble().detector().harm(),
        it.risk(),
        it.weight(),
        about,
        FindingAccount.of(it.trouble(), catalogue),
        kept.since(),
        kept.revision(),
        kept.resolvedAt(),
        it.people(),
        it.within(),
        it.trouble(),
        null,
        states.getOrDefault(it.id(), FindingState.NONE));
  }

  private static SeenFinding rule(
      SeenFindings.Seen seen,
      BrokenRules.@Nullable Since began,
      Map<String, FindingState> states,
      Catalogue catalogue) {
    Finding it = seen.finding();
    String id = seen.whole().id();
    Key about =
        switch (it) {
          case Finding.ExclusionBroken(var _, var conflict) -> conflict.principal();
          case Finding.ExpectationFails(var key, var _) -> key;
          case Finding.PrerequisiteMissing(var who, var _, var _) -> who;
          case Finding.HolderLimit(var role, var _, var _) -> role;
        };
    String kind =
        switch (it) {
          case Finding.ExclusionBroken _ -> "exclusion";
          case Finding.ExpectationFails _ -> "expectation";
          case Finding.PrerequisiteMissing _ -> "prerequisite";
          case Finding.HolderLimit _ -> "holders";
        };
    long weight =
        switch (seen.whole()) {
          case Finding.ExclusionBroken(var _, var conflict) -> conflict.many();
          case Finding.ExpectationFails(var _, var breaches) -> breaches.size();
          case Finding.PrerequisiteMissing _, Finding.HolderLimit _ -> 1;
        };
    return new SeenFinding(
        id,
        kind,
        it instanceof Finding.HolderLimit ? Harm.NO_EFFECT : Harm.MISUSE,
        risk(it, catalogue),
        weight,
        about,
        FindingAccount.of(about, catalogue),
        began == null ? null : began.at(),
        began == null ? null : began.revision(),
        null,
        Set.of(),
        Set.of(),
        null,
        it,
        states.getOrDefault(id, FindingState.NONE));
  }

  private static Permission.Risk risk(Finding it, Catalogue catalogue) {
    return switch (it) {
      case Finding.ExclusionBroken(var key, var _) ->
          catalogue.model().exclusions().stream()
              .filter(each -> each.key().equals(key))
              .flatMap(each -> sides(each).stream())
              .map(permission -> catalogue.permissions().get(permission))
              .filter(Objects::nonNull)
              .map(Permission::risk)
              .reduce(Permission.Risk.HIGH, (one, other) -> one.compareTo(other) > 0 ? one : other);
      case Finding.ExpectationFails _ -> Permission.Risk.HIGH;
      case Finding.PrerequisiteMissing _, Finding.HolderLimit _ -> Permission.Risk.MODERATE;
    };
  }

  private static List<PermissionKey> sides(Exclusion it) {
    return it.sides().stream().flatMap(List::stream).toList();
  }

  /** {@return how things are named in a finding about some people, whom its viewer may be told} */
  static Naming naming(Set<PrincipalKey> people, Set<AccountKey> within, RequestContext context) {
    List<Principal> whom =
        people.stream()
            .map(context.state().engine().catalogue().principals()::get)
            .filter(Objects::nonNull)
            .map(Objects::requireNonNull)
            .toList();
    return whom.isEmpty()
        ? context.naming()
        : context.about(whom, within.isEmpty() ? null : within, null);
  }

  /** What one viewer may be told, each question answered once. */
  private static final class Told {
    private final RequestContext context;
    private final Map<PrincipalKey, Boolean> people = new HashMap<>();
    private final Map<AccountKey, Boolean> homes = new HashMap<>();

    Told(RequestContext context) {
      this.context = context;
    }

    boolean mayBeTold(Detection it) {
      return it.people().stream().allMatch(who -> maySee(who, it.within()))
          && it.homes().stream().allMatch(this::maySeeAllIn)
          && isNamed(it);
    }

    /** Whether it names nothing but what may be read, or what those hold whom it is about. */
    private boolean isNamed(Detection it) {
      return isNamed(it, context.naming())
          || (!it.people().isEmpty() && isNamed(it, naming(it.people(), it.within(), context)));
    }

    /** What is gone from the model is told to nobody: the next look says that it is resolved. */
    private static boolean isNamed(Detection it, Naming naming) {
      return it.trouble().names().stream()
          .allMatch(key ->
              (key instanceof PrincipalKey who && it.people().contains(who))
                  || naming.tells(TroubleText.kind(key), key.value()));
    }

    /** Whether all of somebody's access may be seen, or all that a finding tells of. */
    private boolean maySee(PrincipalKey key, Set<AccountKey> within) {
      if (people.computeIfAbsent(key, context.readPolicy()::maySeeAllOf)) {
        return true;
      }
      Principal who = context.readPolicy().known(key);
      return who != null
          && !within.isEmpty()
          && context.readPolicy().cutFor(who) instanceof ReadPolicy.Cut.Within(var accounts)
          && accounts.containsAll(within);
    }

    /** Whether all of everybody's access may be seen who is at home in an account. */
    private boolean maySeeAllIn(AccountKey account) {
      return homes.computeIfAbsent(
          account,
          it ->
              context.state().engine().catalogue().accounts().containsKey(it)
                  && context.readPolicy().may(Supplied.ACCESS_ASK, ResourceKey.of(it))
                  && context.state().engine().catalogue().units().values().stream()
                      .filter(unit -> unit.account().equals(it))
                      .allMatch(unit ->
                          context
                              .readPolicy()
                              .may(Supplied.ACCESS_ASK, ResourceKey.of(unit.key()))));
    }
  }
}
