package mandala.core.engine;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.IntPredicate;
import mandala.core.model.Clause;
import mandala.core.model.Key;
import mandala.core.model.ResourceCollection;
import mandala.core.model.Term;
import org.jspecify.annotations.Nullable;

/**
 * Clauses read as spans (section 4). What does not depend on a principal is read once and kept.
 *
 * <p>Not thread-safe: used while a snapshot is built.
 */
final class Scopes {

  private final Places places;
  private final Directory directory;
  private final Rights rights;
  private final Map<Key.Collection, ResourceCollection> collections;
  private final Map<Term, Spans> known = new HashMap<>();

  Scopes(
      Places places,
      Directory directory,
      Rights rights,
      Map<Key.Collection, ResourceCollection> collections) {
    this.places = places;
    this.directory = directory;
    this.rights = rights;
    this.collections = collections;
  }

  /**
   * A clause with its fixed terms read.
   *
   * @param fixed where its fixed terms hold, confined where relative terms stay at home
   * @param type the only type it covers, or -1 for all
   */
  record Compiled(
      Spans fixed, int type, boolean ownAccount, boolean ownUnit, boolean self, boolean team) {}

  /**
   * {@return the clauses of a scope that can cover anything}
   *
   * @param home the account where relative terms stay, or -1
   */
  List<Compiled> compile(List<Clause> scope, int home, boolean throughSeals) {
    List<Compiled> compiled = new ArrayList<>(scope.size());
    for (Clause clause : scope) {
      Spans fixed = Spans.of(0, places.count, Spans.NO_FLOOR);
      int type = -1;
      boolean ownAccount = false;
      boolean ownUnit = false;
      boolean self = false;
      boolean team = false;
      for (Term term : clause.terms()) {
        switch (term) {
          case Term.OwnAccount() -> ownAccount = true;
          case Term.OwnUnit() -> ownUnit = true;
          case Term.OwnedBy(Term.Owner owner) when owner == Term.Owner.SELF -> self = true;
          case Term.OwnedBy(Term.Owner owner) when owner == Term.Owner.TEAM -> team = true;
          case Term.OfType(Key.Type of) -> {
            int id = Snapshot.id(rights.typeId, of);
            fixed = type >= 0 && type != id ? Spans.EMPTY : fixed;
            type = id;
          }
          case Term.Everything _,
              Term.InAccount _,
              Term.Tree _,
              Term.Only _,
              Term.InCollection _,
              Term.InUnit _,
              Term.OwnedBy _,
              Term.Labelled _ ->
              fixed = fixed.and(known.computeIfAbsent(term, this::read));
        }
      }
      if (home >= 0 && clause.relative()) {
        fixed = fixed.and(places.under(home));
      }
      if (fixed.size() > 0) {
        fixed = throughSeals ? fixed.through() : fixed;
        compiled.add(new Compiled(fixed, type, ownAccount, ownUnit, self, team));
      }
    }
    return List.copyOf(compiled);
  }

  private Spans read(Term term) {
    return switch (term) {
      case Term.Everything() -> Spans.of(0, places.count, Spans.NO_FLOOR);
      case Term.InAccount(var key) -> places.own(Snapshot.id(directory.accountId, key));
      case Term.Tree(var key) -> places.tree(places.find(key));
      case Term.Only(var key) -> {
        int at = places.find(key);
        yield Spans.of(at, at + 1, at);
      }
      case Term.InCollection(var key) -> collection(collections.get(key));
      case Term.InUnit(var key) ->
          units(places, directory, new int[] {Snapshot.id(directory.unitId, key)});
      case Term.OwnedBy(var _) -> where(at -> places.owner[at] < 0);
      case Term.Labelled(var labels) -> {
        boolean[] matches = new boolean[places.labelSets.size()];
        for (int i = 0; i < matches.length; i++) {
          matches[i] = places.labelSets.get(i).entrySet().containsAll(labels.entrySet());
        }
        yield where(at -> matches[places.labels[at]]);
      }
      case Term.OwnAccount _, Term.OwnUnit _, Term.OfType _ ->
          throw new IllegalStateException("Impossible state: read elsewhere, " + term);
    };
  }

  private Spans where(IntPredicate which) {
    Spans.Builder spans = new Spans.Builder();
    for (int at = 0; at < places.count; at++) {
      if (which.test(at)) {
        spans.add(at, at + 1, Spans.NO_FLOOR);
      }
    }
    return spans.build();
  }

  private Spans collection(@Nullable ResourceCollection collection) {
    if (collection == null) {
      throw new IllegalStateException("Impossible state: a checked model lacks a collection");
    }
    int[] tops = collection.members().stream().mapToInt(places::find).sorted().toArray();
    Spans.Builder spans = new Spans.Builder();
    int reached = -1;
    for (int top : tops) {
      if (top >= reached) {
        spans.add(top, places.end[top], Spans.NO_FLOOR);
        reached = places.end[top];
      }
    }
    return spans.build();
  }

  /**
   * {@return the resources whose effective unit is one of these or below}, each naming its account
   */
  static Spans units(Places places, Directory directory, int[] units) {
    Ints positions = new Ints();
    for (int unit : units) {
      int from = directory.unitOrder.rank[unit];
      int to = directory.unitOrder.end[from];
      slice(places.byUnit, at -> directory.unitOrder.rank[places.unit[at]], from, to, positions);
    }
    return runs(positions, at -> places.accountAt[places.account[at]]);
  }

  /** {@return the resources owned by a principal, or by it and whoever reports to it} */
  static Spans owned(Places places, Directory directory, int principal, boolean team) {
    int from = directory.managerOrder.rank[principal];
    int to = team ? directory.managerOrder.end[from] : from + 1;
    Ints positions = new Ints();
    slice(places.byOwner, at -> directory.managerOrder.rank[places.owner[at]], from, to, positions);
    return runs(positions, _ -> team ? Spans.NO_FLOOR : Spans.THROUGH);
  }

  /** Takes the positions whose rank is from ≤ rank &lt; to out of an array ordered by rank. */
  private static void slice(
      int[] ordered, java.util.function.IntUnaryOperator rank, int from, int to, Ints into) {
    int low = 0;
    int high = ordered.length;
    while (low < high) {
      int middle = (low + high) >>> 1;
      if (rank.applyAsInt(ordered[middle]) < from) {
        low = middle + 1;
      } else {
        high = middle;
      }
    }
    for (int i = low; i < ordered.length && rank.applyAsInt(ordered[i]) < to; i++) {
      into.add(ordered[i]);
    }
  }

  private static Spans runs(Ints positions, java.util.function.IntUnaryOperator floor) {
    int[] sorted = positions.toArray();
    Arrays.sort(sorted);
    Spans.Builder spans = new Spans.Builder();
    int before = -1;
    for (int at : sorted) {
      if (at != before) {
        spans.add(at, at + 1, floor.applyAsInt(at));
      }
      before = at;
    }
    return spans.build();
  }
}
