package mandala.core.compiled.grants;

import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.IntPredicate;
import mandala.core.compiled.rights.Rights;
import mandala.core.compiled.space.ResourceSpace;
import mandala.core.compiled.space.Spans;
import mandala.core.model.Catalogue;
import mandala.core.model.Clause;
import mandala.core.model.Term;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.CollectionKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.TypeKey;

/** Reads clauses as compiled clauses (section 4). Not thread-safe: it keeps what it has read. */
public final class ClauseCompiler {

  private final Catalogue catalogue;
  private final ResourceSpace places;
  private final Rights rights;
  private final Map<Term, Spans> known = new HashMap<>();

  public ClauseCompiler(Catalogue catalogue, ResourceSpace places, Rights rights) {
    this.catalogue = catalogue;
    this.places = places;
    this.rights = rights;
  }

  /**
   * {@return the one resource whose tree, self or account a clause is}, -1 where it is not so plain
   */
  public long plain(Clause clause) {
    if (clause.terms().size() != 1) {
      return -1;
    }
    return switch (clause.terms().getFirst()) {
      case Term.Tree(ResourceKey key) -> {
        int at = places.require(key);
        yield GrantEntry.span(at, places.end[at], 0);
      }
      case Term.Only(ResourceKey key) -> {
        int at = places.require(key);
        yield GrantEntry.span(at, at + 1, 0);
      }
      case Term.InAccount(AccountKey key) -> {
        int account = catalogue.accounts().require(key);
        yield GrantEntry.span(places.accountAt[account], places.ownEnd[account], 0);
      }
      default -> -1;
    };
  }

  /**
   * {@return a clause read}
   *
   * @param within the account to which it is confined, or -1
   */
  public CompiledClause read(Clause clause, int within) {
    Spans fixed = within < 0 ? Spans.of(0, places.count, Spans.NO_FLOOR) : places.under(within);
    int type = -1;
    int flags = 0;
    for (Term term : clause.terms()) {
      switch (term) {
        case Term.OwnAccount() -> flags |= GrantEntry.OWN_ACCOUNT;
        case Term.OwnUnit() -> flags |= GrantEntry.OWN_UNIT;
        case Term.OwnedBy(Term.Owner owner) when owner == Term.Owner.SELF ->
            flags |= GrantEntry.SELF;
        case Term.OwnedBy(Term.Owner owner) when owner == Term.Owner.TEAM ->
            flags |= GrantEntry.TEAM;
        case Term.OfType(TypeKey of) -> {
          int id = rights.type(of);
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
            fixed = fixed.and(known(term));
      }
    }
    if (type >= 0) {
      flags |= GrantEntry.TYPED;
    }
    if (fixed.size() > 1) {
      flags |= GrantEntry.MULTI;
    } else if (fixed.size() == 1 && fixed.floor[0] != fixed.start[0]) {
      flags |= GrantEntry.FLOORED;
    }
    return new CompiledClause(clause, within, fixed, type, flags);
  }

  /** What is drawn from all positions is kept: many clauses have the same label. */
  private Spans known(Term term) {
    return term instanceof Term.Labelled || term instanceof Term.OwnedBy
        ? known.computeIfAbsent(term, this::read)
        : read(term);
  }

  private Spans read(Term term) {
    return switch (term) {
      case Term.Everything() -> Spans.of(0, places.count, Spans.NO_FLOOR);
      case Term.InAccount(var key) -> places.own(catalogue.accounts().require(key));
      case Term.Tree(var key) -> places.tree(places.require(key));
      case Term.Only(var key) -> {
        int at = places.require(key);
        yield Spans.of(at, at + 1, at);
      }
      case Term.InCollection(var key) -> collection(key);
      case Term.InUnit(var key) -> places.inUnit.getOr(catalogue.units().require(key), Spans.EMPTY);
      case Term.OwnedBy(var _) -> where(at -> places.owner[at] < 0 && places.isThere(at));
      case Term.Labelled(var labels) -> {
        boolean[] matches = new boolean[places.labelSets.size()];
        for (int i = 0; i < matches.length; i++) {
          matches[i] = places.labelSets.get(i).entrySet().containsAll(labels.entrySet());
        }
        yield where(at -> matches[places.labels[at]] && places.isThere(at));
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

  /** {@return the positions of a collection's members, ascending} */
  int[] members(CollectionKey key) {
    return catalogue.collections().the(catalogue.collections().require(key)).members().stream()
        .mapToInt(places::require)
        .sorted()
        .toArray();
  }

  private Spans collection(CollectionKey key) {
    int[] tops = members(key);
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

  /** Where who-can looks for a compiled clause: the narrowest thing it names. */
  public sealed interface Anchor {
    record AtPositions(List<Integer> positions) implements Anchor {}

    record InUnit(int unit) implements Anchor {}

    record WithLabel(java.util.Map.Entry<String, String> label) implements Anchor {}

    record OfType(int type) implements Anchor {}

    record Everywhere() implements Anchor {}
  }

  /** {@return the anchor of a compiled clause}: whatever it covers is at or below it, or has it */
  public Anchor anchor(Clause clause, int within) {
    Anchor best = new Anchor.Everywhere();
    int rank = 0;
    for (Term term : clause.terms()) {
      Anchor it = anchor(term);
      int worth = worth(it, term);
      if (worth > rank) {
        best = it;
        rank = worth;
      }
    }
    return rank < 3 && within >= 0
        ? new Anchor.AtPositions(List.of(places.accountAt[within]))
        : best;
  }

  private Anchor anchor(Term term) {
    return switch (term) {
      case Term.Tree(var key) -> new Anchor.AtPositions(List.of(places.require(key)));
      case Term.Only(var key) -> new Anchor.AtPositions(List.of(places.require(key)));
      case Term.InCollection(var key) ->
          new Anchor.AtPositions(Arrays.stream(members(key)).boxed().toList());
      case Term.InAccount(var key) ->
          new Anchor.AtPositions(List.of(places.accountAt[catalogue.accounts().require(key)]));
      case Term.InUnit(var key) -> new Anchor.InUnit(catalogue.units().require(key));
      case Term.Labelled(var labels) -> new Anchor.WithLabel(labels.entrySet().iterator().next());
      case Term.OfType(var key) -> new Anchor.OfType(rights.type(key));
      case Term.Everything _, Term.OwnAccount _, Term.OwnUnit _, Term.OwnedBy _ ->
          new Anchor.Everywhere();
    };
  }

  private static int worth(Anchor anchor, Term term) {
    return switch (anchor) {
      case Anchor.AtPositions _ -> term instanceof Term.InAccount ? 3 : 5;
      case Anchor.InUnit _ -> 4;
      case Anchor.WithLabel _ -> 2;
      case Anchor.OfType _ -> 1;
      case Anchor.Everywhere _ -> 0;
    };
  }
}
