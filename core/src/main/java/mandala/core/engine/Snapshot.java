package mandala.core.engine;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import mandala.core.model.Activation;
import mandala.core.model.Assignment;
import mandala.core.model.Bridge;
import mandala.core.model.Catalogue;
import mandala.core.model.Delegation;
import mandala.core.model.Gives;
import mandala.core.model.Group;
import mandala.core.model.Key;
import mandala.core.model.Pattern;
import mandala.core.model.Subject;
import mandala.core.model.Window;
import org.jspecify.annotations.Nullable;

/** A checked model compiled for answering: dense, immutable, safe to share between threads. */
final class Snapshot {

  final Catalogue catalogue;
  final Directory directory;
  final Rights rights;
  final Places places;

  /** The accounts that are live, as spans. */
  final Spans live;

  final Map<Key.Pattern, List<Grant>> byPattern = new HashMap<>();
  final List<List<Grant>> byPrincipal;
  final List<List<Grant>> byGroup;
  final List<List<Grant>> byAccount;
  final Map<Subject.Public, List<Grant>> byPublic = new HashMap<>();
  final List<List<BridgeGrant>> bridges;

  /** By principal: the activations it has made; the delegations in which it is acted for. */
  final Map<Integer, List<Active>> activations = new HashMap<>();

  final Map<Integer, List<Limited>> delegations = new HashMap<>();

  /** A time of which only whole seconds count: it holds at t where from ≤ t &lt; until. */
  record Time(long from, long until) {
    static Time of(Window window) {
      return new Time(
          window.from() == null ? Long.MIN_VALUE : window.from().getEpochSecond(),
          window.until() == null ? Long.MAX_VALUE : window.until().getEpochSecond());
    }
  }

  /**
   * An assignment compiled.
   *
   * @param widely whether its subject is a public one
   */
  record Grant(
      Assignment assignment,
      Time time,
      boolean justInTime,
      boolean widely,
      Given given,
      List<Scopes.Compiled> scope,
      List<Scopes.Compiled> viewScope) {}

  /** An accepted bridge compiled, of a source account that is live. */
  record BridgeGrant(
      Bridge bridge, Time time, int source, Spans cut, Given given, List<Scopes.Compiled> scope) {}

  /** An activation. */
  record Active(Key.Assignment assignment, Time time) {}

  /** A delegation compiled. */
  static final class Limited {
    final int delegate;
    final Time time;

    /** What may be passed on: delegable, and within the limit. */
    final long[] row;

    final List<Scopes.Compiled> scope;

    Limited(int delegate, Time time, long[] row, List<Scopes.Compiled> scope) {
      this.delegate = delegate;
      this.time = time;
      this.row = row;
      this.scope = scope;
    }
  }

  Snapshot(Catalogue catalogue) {
    this.catalogue = catalogue;
    directory = new Directory(catalogue);
    rights = new Rights(catalogue);
    places = new Places(catalogue, directory, rights.typeId);
    live = liveSpans();
    byPrincipal = lists(directory.principals.size());
    byGroup = lists(directory.groups.size());
    byAccount = lists(directory.accounts.size());
    bridges = lists(directory.groups.size());
    Scopes scopes = new Scopes(places, directory, rights, catalogue.collections());
    catalogue.model().assignments().forEach(it -> add(it, scopes));
    catalogue.model().bridges().forEach(it -> add(it, scopes));
    catalogue.model().delegations().forEach(it -> add(it, scopes));
    for (Activation it : catalogue.model().activations()) {
      activations
          .computeIfAbsent(id(directory.principalId, it.principal()), _ -> new ArrayList<>())
          .add(new Active(it.assignment(), Time.of(it.window())));
    }
  }

  /** {@return the dense id of a key that a checked model must have} */
  static <K> int id(Map<K, Integer> ids, K key) {
    Integer id = ids.get(key);
    if (id == null) {
      throw new IllegalStateException("Impossible state: a checked model lacks " + key);
    }
    return id;
  }

  private static <T> List<List<T>> lists(int size) {
    List<List<T>> lists = new ArrayList<>(size);
    for (int i = 0; i < size; i++) {
      lists.add(new ArrayList<>(0));
    }
    return lists;
  }

  private Spans liveSpans() {
    int[] ids =
        java.util.stream.IntStream.range(0, directory.accounts.size())
            .filter(a -> directory.live[a])
            .boxed()
            .sorted((a, b) -> Integer.compare(places.accountAt[a], places.accountAt[b]))
            .mapToInt(Integer::intValue)
            .toArray();
    Spans.Builder spans = new Spans.Builder();
    Arrays.stream(ids)
        .forEach(a -> spans.add(places.accountAt[a], places.ownEnd[a], Spans.NO_FLOOR));
    return spans.build();
  }

  /** The account where relative terms of an assignment stay (section 4), or -1. */
  private int homeOf(Subject subject) {
    return switch (subject) {
      case Subject.OfGroup(Key.Group key) ->
          id(directory.accountId, directory.groups.get(id(directory.groupId, key)).account());
      case Subject.OfAccount(Key.Account key) -> id(directory.accountId, key);
      case Subject.OfPattern(Key.Pattern key) -> {
        Pattern pattern = catalogue.patterns().get(key);
        Key.@Nullable Account account = pattern == null ? null : pattern.account();
        yield account == null ? -1 : id(directory.accountId, account);
      }
      case Subject.OfPrincipal _, Subject.Public _ -> -1;
    };
  }

  private void add(Assignment it, Scopes scopes) {
    int home = homeOf(it.subject());
    Grant grant =
        new Grant(
            it,
            Time.of(it.window()),
            it.mode() == Assignment.Mode.JUST_IN_TIME,
            it.subject() instanceof Subject.Public,
            rights.given(it.gives(), it.effect()),
            scopes.compile(it.scope(), home, it.crossesSeals()),
            scopes.compile(it.viewScope(), home, it.crossesSeals()));
    switch (it.subject()) {
      case Subject.OfPrincipal(var _, Key.Principal key) ->
          byPrincipal.get(id(directory.principalId, key)).add(grant);
      case Subject.OfGroup(Key.Group key) -> byGroup.get(id(directory.groupId, key)).add(grant);
      case Subject.OfPattern(Key.Pattern key) ->
          byPattern.computeIfAbsent(key, _ -> new ArrayList<>()).add(grant);
      case Subject.OfAccount(Key.Account key) ->
          byAccount.get(id(directory.accountId, key)).add(grant);
      case Subject.Public who -> byPublic.computeIfAbsent(who, _ -> new ArrayList<>()).add(grant);
    }
  }

  private void add(Bridge it, Scopes scopes) {
    int g = id(directory.groupId, it.group());
    Group group = directory.groups.get(g);
    int source = id(directory.accountId, group.account());
    if (it.status() == Bridge.Status.ACCEPTED && directory.live[source]) {
      bridges
          .get(g)
          .add(
              new BridgeGrant(
                  it,
                  Time.of(it.window()),
                  source,
                  places.under(id(directory.accountId, it.account())),
                  rights.given(it.gives()),
                  scopes.compile(it.scope(), -1, false)));
    }
  }

  private void add(Delegation it, Scopes scopes) {
    long[] row = rights.delegableRow;
    if (it.limit() instanceof Delegation.Limit.Listed(List<Gives> listed)) {
      long[] limit = new long[rights.rowLength];
      for (Gives gives : listed) {
        long[] all = rights.given(gives).all;
        for (int i = 0; i < limit.length; i++) {
          limit[i] |= all[i];
        }
      }
      row = Given.and(row, limit);
    }
    delegations
        .computeIfAbsent(id(directory.principalId, it.principal()), _ -> new ArrayList<>())
        .add(
            new Limited(
                id(directory.principalId, it.delegate()),
                Time.of(it.window()),
                row,
                scopes.compile(it.scope(), -1, true)));
  }
}
