package mandala.core.shrink;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.NavigableMap;
import java.util.Set;
import mandala.core.authority.Authority;
import mandala.core.engine.Engine;
import mandala.core.model.Account;
import mandala.core.model.Assignment;
import mandala.core.model.Catalogue;
import mandala.core.model.Gives;
import mandala.core.model.Permission;
import mandala.core.model.Principal;
import mandala.core.model.Subject;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.rule.Exposure;
import mandala.core.rule.Ownership;
import org.jspecify.annotations.Nullable;

/** Narrows assignments to what is needed of them, by {@link Partition} and {@link NarrowScope}. */
final class Narrowing {

  /** People beyond whom an assignment is not split. */
  private static final int MOST_SPLIT = 24;

  private final Round round;
  private final Engine now;
  private final ShrinkOrder order;
  private final Instant at;
  private final Contents contents;

  /** Number of assignments of the model that one began with. */
  private final int assignmentsBefore;

  /**
   * Begins.
   *
   * @param now the model to narrow, which came of the round's by moves that take things away
   */
  Narrowing(Round round, Engine now, ShrinkOrder order, Contents contents, int assignmentsBefore) {
    this.round = round;
    this.now = now;
    this.order = order;
    at = order.window().at();
    this.contents = contents;
    this.assignmentsBefore = assignmentsBefore;
  }

  /** {@return what to try where an assignment that nobody needs can't go} */
  List<Move> insteadOfEnding(Assignment it) {
    List<Move> moves = new ArrayList<>();
    moves.addAll(keepingAnOwner(it, List.of(), new ShrinkStep.Why.NobodyNeedsIt(0)));
    moves.addAll(deniesOnly(it));
    return moves;
  }

  /** Where an assignment also denies, its denies stay. */
  private List<Move> deniesOnly(Assignment it) {
    Contents.Content whole = contents.of(it);
    if (whole.deny().isEmpty() || whole.size() == 0) {
      return List.of();
    }
    Gives denies = denying(it, whole);
    return List.of(
        new Move.Narrow(
            it,
            List.of(
                new Move.Part(
                    it.subject(), denies, new NarrowScope.Scopes(it.scope(), it.viewScope()))),
            contents,
            new ShrinkStep.Why.NobodyNeedsIt(0),
            List::of));
  }

  private Gives denying(Assignment it, Contents.Content whole) {
    return contents.giving(
        new Contents.Content(Set.of(), Set.of(), whole.deny()),
        it.gives(),
        now.catalogue().homeOf(it.subject()));
  }

  /** An assignment with the ways to give what is needed of it. */
  private record Candidate(
      Assignment it,
      Cells cells,
      Partition.Table table,
      NavigableMap<Integer, Partition.Way> ways) {}

  /** {@return moves by which assignments give less} */
  List<Move> moves(List<Assignment> staying) {
    staying.forEach(contents::of);
    List<Candidate> candidates =
        staying.parallelStream()
            .filter(it -> round.chosen.cells.containsKey(round.giver(it)))
            .map(it -> candidate(it))
            .toList();
    long budget = Math.round(assignmentsBefore * (1 + order.tight()));
    int others = now.catalogue().assignments().size() - candidates.size();
    long denying =
        candidates.stream().filter(each -> !contents.of(each.it()).deny().isEmpty()).count();
    int[] shares =
        Partition.shares(
            candidates.stream().map(Candidate::ways).toList(), budget - others - denying);
    List<Move> moves = new ArrayList<>();
    for (int i = 0; i < shares.length; i++) {
      Candidate candidate = candidates.get(i);
      Partition.Way way = candidate.ways().get(shares[i]);
      Move move = way == null ? null : narrowed(candidate, way);
      if (move != null) {
        moves.add(move);
      }
    }
    // a looser order asks for a share of them: those that leave least
    moves.sort(Comparator.comparingInt(it -> it instanceof Move.Narrow n ? n.parts().size() : 0));
    return moves.subList(0, (int) Math.ceil(order.tight() * moves.size()));
  }

  private Candidate candidate(Assignment it) {
    int giver = round.giver(it);
    Cells cells = round.chosen.cells.getOrDefault(giver, new Cells());
    List<Integer> holders = round.holders.getOrDefault(giver, List.of());
    Contents.Content whole = contents.of(it);
    Cells closed = closed(cells, whole);
    Partition.Table table = table(closed, holders);
    boolean splits =
        order.split()
            && it.mode() == Assignment.Mode.STANDING
            && !(it.subject() instanceof Subject.OfPrincipal)
            && closed.people().size() <= MOST_SPLIT;
    NavigableMap<Integer, Partition.Way> ways =
        new Partition(table)
            .ways(
                closed,
                (person, place) ->
                    splits
                        && !round.isGuestForAWhile(person)
                        && (!(it.subject() instanceof Subject.Public)
                            || round.belongs(person, place)));
    if (it.mode() == Assignment.Mode.JUST_IN_TIME) {
      ways.tailMap(1, false).clear();
    }
    return new Candidate(it, closed, table, ways);
  }

  /** What comes with a permission comes with it in whatever gives it. */
  private Cells closed(Cells cells, Contents.Content whole) {
    Cells closed = new Cells();
    for (int person : cells.people()) {
      for (long cell : cells.of(person)) {
        closed.add(person, cell);
        int position = Cells.position(cell);
        for (int implied : round.study.implied(Cells.permission(cell))) {
          if (round.study.applies(implied, position)
              && whole.allows(round.study.permission(implied).key())) {
            closed.add(person, Cells.cell(implied, position));
          }
        }
      }
    }
    return closed;
  }

  private Partition.Table table(Cells cells, List<Integer> holders) {
    Map<Long, Integer> needing = new HashMap<>();
    Set<Integer> permissions = new HashSet<>();
    Set<Integer> positions = new HashSet<>();
    for (int it : cells.permissions()) {
      permissions.add(it);
    }
    for (int it : cells.positions()) {
      positions.add(it);
    }
    for (int person : holders) {
      for (long cell : round.obligations.cells(person)) {
        if (permissions.contains(Cells.permission(cell))
            && positions.contains(Cells.position(cell))) {
          needing.merge(cell, 1, Integer::sum);
        }
      }
    }
    int[] ofPermissions = cells.permissions();
    int[] ofPlaces = cells.positions();
    return new Partition.Table() {
      @Override
      public int[] permissions() {
        return ofPermissions;
      }

      @Override
      public int[] places() {
        return ofPlaces;
      }

      @Override
      public long cost(int person, int permission, int place) {
        if (!round.study.applies(permission, place)) {
          return 0;
        }
        long cell = Cells.cell(permission, place);
        long weight = Exposure.of(round.study.permission(permission).risk());
        return person == Partition.ALL
            ? weight * ((long) holders.size() - needing.getOrDefault(cell, 0))
            : round.obligations.isKept(person, cell) ? 0 : weight;
      }

      @Override
      public boolean isNeededByAll(int permission, int place) {
        return needing.getOrDefault(Cells.cell(permission, place), 0) == holders.size();
      }
    };
  }

  private @Nullable Move narrowed(Candidate candidate, Partition.Way way) {
    Assignment it = candidate.it();
    Contents.Content whole = contents.of(it);
    NarrowScope scopes = new NarrowScope(now, it, order.clauses());
    List<Move.Part> parts = new ArrayList<>();
    for (Partition.Piece piece : way.pieces()) {
      Move.Part part = part(candidate, piece, whole, scopes);
      if (part == null) {
        return null;
      }
      parts.add(part);
    }
    if (parts.equals(
        List.of(
            new Move.Part(
                it.subject(), it.gives(), new NarrowScope.Scopes(it.scope(), it.viewScope()))))) {
      return null;
    }
    if (!whole.deny().isEmpty()) {
      parts.add(
          new Move.Part(
              it.subject(),
              denying(it, whole),
              new NarrowScope.Scopes(it.scope(), it.viewScope())));
    }
    int holders = round.holders.getOrDefault(round.giver(it), List.of()).size();
    ShrinkStep.Why why = new ShrinkStep.Why.Narrowed(holders, candidate.cells().people().size());
    return new Move.Narrow(
        it,
        parts,
        contents,
        why,
        () -> {
          List<Move> instead = new ArrayList<>(keepingAnOwner(it, parts, why));
          instead.addAll(inPlace(candidate, scopes, why));
          return instead;
        });
  }

  /** One of those who own a root account by it goes on to, there. */
  private List<Move> keepingAnOwner(Assignment it, List<Move.Part> parts, ShrinkStep.Why why) {
    Catalogue catalogue = now.catalogue();
    if (!Ownership.isGivenBy(it, catalogue)) {
      return List.of();
    }
    NarrowScope scopes = new NarrowScope(now, it, order.clauses());
    List<Move.Part> more = new ArrayList<>(parts);
    for (Account account : catalogue.accounts().values()) {
      ResourceKey place = ResourceKey.of(account.key());
      for (PrincipalKey who :
          account.parent() == null ? owners(it, account) : List.<PrincipalKey>of()) {
        NarrowScope.Scopes there =
            scopes.to(
                List.of(new NarrowScope.Need(place, catalogue.principals().get(who), false)),
                _ -> true);
        if (there != null) {
          more.add(
              new Move.Part(
                  new Subject.OfPrincipal(Principal.Kind.PERSON, who), it.gives(), there));
          break;
        }
      }
    }
    return more.size() == parts.size()
        ? List.of()
        : List.of(new Move.Narrow(it, more, contents, why, List::of));
  }

  private List<PrincipalKey> owners(Assignment it, Account account) {
    return Authority.ownersOf(now, account.key(), at).stream()
        .filter(who -> now.hasSubject(who, it.subject(), at))
        .toList();
  }

  /** Less of it, in fewer places, given as it was: where more is not sound. */
  private List<Move> inPlace(Candidate candidate, NarrowScope scopes, ShrinkStep.Why why) {
    Assignment it = candidate.it();
    Partition.@Nullable Way whole = candidate.ways().get(1);
    List<Move> moves = new ArrayList<>();
    if (whole != null && contents.of(it).deny().isEmpty()) {
      Partition.Piece piece = whole.pieces().getFirst();
      Move.Part part = part(candidate, piece, contents.of(it), scopes);
      if (part != null) {
        moves.add(new Move.Narrow(it, List.of(part), contents, why, List::of));
        moves.add(
            new Move.Narrow(
                it,
                List.of(new Move.Part(it.subject(), it.gives(), part.scopes())),
                contents,
                why,
                List::of));
        moves.add(
            new Move.Narrow(
                it,
                List.of(
                    new Move.Part(
                        it.subject(),
                        part.gives(),
                        new NarrowScope.Scopes(it.scope(), it.viewScope()))),
                contents,
                why,
                List::of));
      }
    }
    return moves;
  }

  private Move.@Nullable Part part(
      Candidate candidate, Partition.Piece piece, Contents.Content whole, NarrowScope scopes) {
    Assignment it = candidate.it();
    Set<PermissionKey> permissions = new HashSet<>();
    List<Integer> numbers = new ArrayList<>();
    boolean views = true;
    for (int p : piece.permissions().stream().toArray()) {
      int number = candidate.table().permissions()[p];
      Permission permission = round.study.permission(number);
      numbers.add(number);
      permissions.add(permission.key());
      views &= permission.accessClass() == Permission.AccessClass.VIEW;
    }
    for (int number : numbers) {
      for (int implied : round.study.implied(number)) {
        permissions.add(round.study.permission(implied).key());
      }
    }
    List<NarrowScope.Need> needs = new ArrayList<>();
    for (int s : piece.places().stream().toArray()) {
      int position = candidate.table().places()[s];
      for (int person : candidate.cells().people()) {
        if (piece.person() == Partition.ALL || piece.person() == person) {
          addNeed(candidate, person, position, numbers, needs);
        }
      }
    }
    NarrowScope.@Nullable Scopes narrow = scopes.to(needs, place -> matters(numbers, place));
    if (narrow == null || (!views && narrow.scope().isEmpty() && narrow.viewScope().isEmpty())) {
      return null;
    }
    Contents.Content less = Contents.part(whole, permissions);
    Gives gives =
        less.equals(new Contents.Content(whole.free(), whole.factor(), Set.of()))
                && whole.deny().isEmpty()
            ? it.gives()
            : contents.giving(less, it.gives(), round.catalogue.homeOf(it.subject()));
    Subject subject = it.subject();
    Principal who = piece.person() == Partition.ALL ? null : round.principal(piece.person());
    if (piece.person() != Partition.ALL) {
      if (who == null) {
        return null;
      }
      subject = new Subject.OfPrincipal(who.kind(), who.key());
    }
    return new Move.Part(subject, gives, narrow);
  }

  private void addNeed(
      Candidate candidate,
      int person,
      int position,
      List<Integer> permissions,
      List<NarrowScope.Need> needs) {
    boolean any = false;
    boolean view = true;
    for (int permission : permissions) {
      if (candidate.cells().of(person).contains(Cells.cell(permission, position))) {
        any = true;
        view &= round.study.permission(permission).accessClass() == Permission.AccessClass.VIEW;
      }
    }
    if (any) {
      needs.add(
          new NarrowScope.Need(round.study.resource(position), round.principal(person), view));
    }
  }

  private boolean matters(List<Integer> permissions, ResourceKey place) {
    int position = round.study.position(place);
    return permissions.stream().anyMatch(it -> round.study.applies(it, position));
  }
}
