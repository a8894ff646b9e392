package mandala.core.shrink;

import java.time.Instant;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.NavigableMap;
import java.util.Set;
import java.util.function.Predicate;
import mandala.core.authority.Authority;
import mandala.core.change.Change;
import mandala.core.change.Draft;
import mandala.core.engine.Engine;
import mandala.core.excess.Excess;
import mandala.core.excess.ExcessStudy;
import mandala.core.excess.Use;
import mandala.core.model.AccessModel;
import mandala.core.model.Account;
import mandala.core.model.Assignment;
import mandala.core.model.Bridge;
import mandala.core.model.Catalogue;
import mandala.core.model.Gives;
import mandala.core.model.Group;
import mandala.core.model.Guest;
import mandala.core.model.Permission;
import mandala.core.model.Principal;
import mandala.core.model.Subject;
import mandala.core.model.Thing;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.question.Impact;
import mandala.core.rule.Exposure;
import mandala.core.rule.Ownership;
import mandala.core.rule.ScopeCoverage;
import org.jspecify.annotations.Nullable;

/**
 * Makes a smaller model (section 12): one in which nobody gains, what is needed stays and what is
 * not goes, as far as an order says.
 *
 * <ol>
 *   <li>{@link Obligations}: what must stay, and what gives it. Of the givers few are chosen; the
 *       others go.
 *   <li>{@link Partition}: what is needed of one that stays is given by one or several that give
 *       little else.
 *   <li>Members of groups and guests that need nothing by it leave.
 *   <li>{@link Soundness} judges all of it together; where it is not sound, halves of it, down to
 *       single moves. What is not sound is left out.
 * </ol>
 */
public final class Shrinker {

  /** People beyond whom an assignment is not split. */
  private static final int MOST_SPLIT = 24;

  /** Rounds of taking away what became needless by what was trimmed. */
  private static final int ROUNDS = 3;

  /** Assignments, members and guests of models that are also looked through one by one. */
  private static final int SMALL = 120;

  private final Engine then;
  private final ShrinkOrder order;
  private final Instant at;
  private final Soundness soundness;
  private final Contents contents;
  private final int assignmentsBefore;
  private Engine now;
  private final List<ShrinkStep> steps = new ArrayList<>();

  private Shrinker(Engine before, Engine then, ShrinkOrder order, Soundness soundness) {
    this.then = then;
    this.order = order;
    at = order.window().at();
    this.soundness = soundness;
    contents = new Contents(before.catalogue());
    assignmentsBefore = before.catalogue().assignments().size();
    now = before;
  }

  /**
   * What came of it, in exposure over all principals, {@code anonymous} included.
   *
   * @param model the smaller model, the same one where nothing could go
   * @param before what all had
   * @param after what they have by the smaller model
   * @param floor what they need, and what is young
   * @param steps in an order in which each fits the model that the one before left
   */
  public record Answer(
      AccessModel model, long before, long after, long floor, List<ShrinkStep> steps) {
    /** Copies its steps. */
    public Answer {
      steps = List.copyOf(steps);
    }

    /** {@return how much of the way from what all had to what they need was gone}, from 0 to 1 */
    public double reached() {
      return before == floor ? 1 : (double) (before - after) / (before - floor);
    }
  }

  /**
   * {@return a smaller model that is sound}
   *
   * @param then the engine of the model in force when the window began: the same where there is no
   *     other
   * @param watch told how far it is, and asked whether to go on; broken off, it gives what was
   *     trimmed by then
   */
  public static Answer of(Engine engine, Engine then, ShrinkOrder order, Impact.Watch watch) {
    ExcessStudy study = engine.excess(then, order.use(), order.window());
    Shrinker shrinker =
        new Shrinker(engine, then, order, new Soundness(engine, study, order, false));
    shrinker.run(watch);
    if (!shrinker.soundness.holdsFromTheFirst(shrinker.now)) {
      // something begins later: all again, each move held to every edge and everybody
      shrinker = new Shrinker(engine, then, order, new Soundness(engine, study, order, true));
      shrinker.run(watch);
    }
    long all = 0;
    long floor = 0;
    for (Excess it : study.of(study.everybody())) {
      all += it.exposure();
      floor += it.exposure() - it.excessExposure();
    }
    AccessModel model = shrinker.now.catalogue().model();
    return new Answer(
        model, all, shrinker.steps.isEmpty() ? all : shrinker.exposure(), floor, shrinker.steps);
  }

  private long exposure() {
    ExcessStudy after = now.excess(now, Use.NONE, order.window());
    return after.of(after.everybody()).stream().mapToLong(Excess::exposure).sum();
  }

  private void run(Impact.Watch watch) {
    boolean narrows = order.tight() > 0;
    int rounds = now.catalogue().assignments().size() > SMALL ? ROUNDS - 1 : ROUNDS;
    for (int round = 0; round < rounds; round++) {
      if (!watch.goOn(round, ROUNDS + 1)) {
        return;
      }
      int found = steps.size();
      round(narrows && round == 0);
      if (steps.size() == found) {
        break;
      }
    }
    if (watch.goOn(ROUNDS, ROUNDS + 1)) {
      polish();
    }
  }

  // ---- one round --------------------------------------------------------------------------------

  /** What is known of one model in one round. */
  private final class Round {
    final Catalogue catalogue = now.catalogue();
    final Obligations obligations;
    final ExcessStudy study;
    final BitSet fixed = new BitSet();
    final Map<Integer, List<Integer>> holders = new HashMap<>();
    final Map<PrincipalKey, Integer> people = new HashMap<>();
    final @Nullable Set<Integer> selected;
    final Obligations.Chosen chosen;

    Round() {
      study = now.excess(then, order.use(), order.window());
      Engine on = soundness.switchedOn(now);
      ExcessStudy onStudy = on.equals(now) ? study : on.excess(on, order.use(), order.window());
      obligations = new Obligations(catalogue, order, study, onStudy, soundness::mightSwitchOn);
      for (int i = 0; i < obligations.people.size(); i++) {
        people.put(obligations.people.get(i), i);
      }
      selected = selected();
      int givers = catalogue.assignments().numbers();
      catalogue.assignments().values().forEach(it -> look(it, it.subject()));
      catalogue.bridges().values().forEach(it -> look(it, new Subject.OfGroup(it.group())));
      for (int i = 0; i < givers; i++) {
        if (catalogue.assignments().at(i) == null) {
          fixed.set(i);
        }
      }
      Map<Integer, Integer> counts = new HashMap<>();
      holders.forEach((giver, some) -> counts.put(giver, some.size()));
      obligations.choose(fixed, order.tight() > 0, counts);
      chosen = obligations.chosen(fixed, counts);
    }

    private void look(Thing it, Subject subject) {
      int giver = giver(it);
      List<Integer> some = having(subject);
      holders.put(giver, some);
      boolean touched = selected == null || some.stream().anyMatch(selected::contains);
      boolean gives =
          it instanceof Assignment assignment
              ? assignment.effect() == Assignment.Effect.ALLOW
              : it instanceof Bridge bridge && bridge.status() == Bridge.Status.ACCEPTED;
      if (!touched || !gives || isUntouched(it)) {
        fixed.set(giver);
      }
    }

    private boolean isUntouched(Thing it) {
      return it.key() != null && order.untouched().contains(it.key().value());
    }

    int giver(Thing it) {
      return it instanceof Bridge bridge
          ? catalogue.assignments().numbers() + catalogue.bridges().require(bridge.key())
          : catalogue.assignments().require(((Assignment) it).key());
    }

    private @Nullable Set<Integer> selected() {
      if (order.selection().isEmpty()) {
        return null;
      }
      Set<Integer> some = new HashSet<>();
      order.selection().forEach(it -> some.addAll(having(it)));
      return some;
    }

    /** Who has a subject, active, as numbers; everybody of a public one. */
    private List<Integer> having(Subject subject) {
      List<Integer> some = new ArrayList<>();
      if (subject instanceof Subject.Public open) {
        for (int i = 0; i < obligations.people.size(); i++) {
          boolean anonymous = obligations.people.get(i).equals(PrincipalKey.ANONYMOUS);
          if (open == Subject.Public.ANYONE || anonymous == (open == Subject.Public.ANONYMOUS)) {
            some.add(i);
          }
        }
        return some;
      }
      for (Principal it : now.having(subject, at)) {
        Integer number = people.get(it.key());
        if (number != null && now.isActive(it.key(), at)) {
          some.add(number);
        }
      }
      return some;
    }

    /** Whether a principal has subjects as a guest that end, or begin: it must not keep them. */
    boolean isGuestForAWhile(int person) {
      Principal who = principal(person);
      return who != null
          && catalogue.links().guests(catalogue.principals().require(who.key())).stream()
              .anyMatch(it -> it.window().from() != null || it.window().until() != null);
    }

    /** Whether a principal belongs to a place's account for good. */
    boolean belongs(int person, int position) {
      Principal who = principal(person);
      AccountKey account = catalogue.accountOf(study.resource(position));
      return who != null
          && account != null
          && (catalogue.isAtOrBelow(account, who.account())
              || catalogue.links().guests(catalogue.principals().require(who.key())).stream()
                  .anyMatch(it ->
                      covers(it, account, catalogue)
                          && it.window().until() == null
                          && it.window().holdsAt(at)));
    }

    @Nullable Principal principal(int person) {
      return catalogue.principals().get(obligations.people.get(person));
    }
  }

  private void round(boolean narrows) {
    Round round = new Round();
    List<Move> ends = new ArrayList<>();
    List<Assignment> staying = new ArrayList<>();
    for (Assignment it : round.catalogue.assignments().values()) {
      int giver = round.giver(it);
      if (round.fixed.get(giver)) {
        continue;
      }
      if (round.obligations.stays(giver)) {
        staying.add(it);
      } else {
        ends.add(new Move.EndAssignment(it, unneeded(round, giver), instead(it, narrows)));
      }
    }
    for (Bridge it : round.catalogue.bridges().values()) {
      int giver = round.giver(it);
      if (!round.fixed.get(giver) && !round.obligations.stays(giver)) {
        ends.add(new Move.EndBridge(it, unneeded(round, giver)));
      }
    }
    acceptAll(ends);
    denying = denying();
    acceptAll(leaving(round));
    if (narrows) {
      acceptAll(narrowed(round, staying));
    }
  }

  private static ShrinkStep.Why unneeded(Round round, int giver) {
    Set<Integer> keeping = round.chosen.otherwise.getOrDefault(giver, Set.of());
    return keeping.isEmpty()
        ? new ShrinkStep.Why.NobodyNeedsIt(round.holders.getOrDefault(giver, List.of()).size())
        : new ShrinkStep.Why.KeptOtherwise(keeping.size());
  }

  private List<Move> instead(Assignment it, boolean narrows) {
    List<Move> moves = new ArrayList<>();
    if (narrows) {
      moves.addAll(keepingAnOwner(it, List.of(), new ShrinkStep.Why.NobodyNeedsIt(0)));
    }
    moves.addAll(deniesOnly(it, narrows));
    return moves;
  }

  /** Where an assignment also denies, its denies stay. */
  private List<Move> deniesOnly(Assignment it, boolean narrows) {
    Contents.Content whole = contents.of(it);
    if (!narrows || whole.deny().isEmpty() || whole.size() == 0) {
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
        ScopeCoverage.homeOf(it.subject(), now.catalogue()));
  }

  // ---- narrowing --------------------------------------------------------------------------------

  /** An assignment with the ways to give what is needed of it. */
  private record Candidate(
      Assignment it,
      Cells cells,
      Partition.Table table,
      NavigableMap<Integer, Partition.Way> ways) {}

  private List<Move> narrowed(Round round, List<Assignment> staying) {
    staying.forEach(contents::of);
    List<Candidate> candidates =
        staying.parallelStream()
            .filter(it -> round.chosen.cells.containsKey(round.giver(it)))
            .map(it -> candidate(round, it))
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
      Move move = way == null ? null : narrowed(round, candidate, way);
      if (move != null) {
        moves.add(move);
      }
    }
    return order.tight() >= 1 ? moves : some(moves);
  }

  /** The share of some moves that a looser order asks for; those that leave least come first. */
  private List<Move> some(List<Move> moves) {
    List<Move> sorted = new ArrayList<>(moves);
    sorted.sort(Comparator.comparingInt(it -> it instanceof Move.Narrow n ? n.parts().size() : 0));
    return sorted.subList(0, (int) Math.ceil(order.tight() * sorted.size()));
  }

  private Candidate candidate(Round round, Assignment it) {
    int giver = round.giver(it);
    Cells cells = round.chosen.cells.getOrDefault(giver, new Cells());
    List<Integer> holders = round.holders.getOrDefault(giver, List.of());
    Contents.Content whole = contents.of(it);
    Cells closed = closed(round, cells, whole);
    Partition.Table table = table(round, closed, holders);
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
  private static Cells closed(Round round, Cells cells, Contents.Content whole) {
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

  private static Partition.Table table(Round round, Cells cells, List<Integer> holders) {
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

  private @Nullable Move narrowed(Round round, Candidate candidate, Partition.Way way) {
    Assignment it = candidate.it();
    Contents.Content whole = contents.of(it);
    NarrowScope scopes = new NarrowScope(now, it, order.clauses());
    List<Move.Part> parts = new ArrayList<>();
    for (Partition.Piece piece : way.pieces()) {
      Move.Part part = part(round, candidate, piece, whole, scopes);
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
          instead.addAll(inPlace(round, candidate, scopes, why));
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
  private List<Move> inPlace(
      Round round, Candidate candidate, NarrowScope scopes, ShrinkStep.Why why) {
    Assignment it = candidate.it();
    Partition.@Nullable Way whole = candidate.ways().get(1);
    List<Move> moves = new ArrayList<>();
    if (whole != null && contents.of(it).deny().isEmpty()) {
      Partition.Piece piece = whole.pieces().getFirst();
      Move.Part part = part(round, candidate, piece, contents.of(it), scopes);
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
      Round round,
      Candidate candidate,
      Partition.Piece piece,
      Contents.Content whole,
      NarrowScope scopes) {
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
          addNeed(round, candidate, person, position, numbers, needs);
        }
      }
    }
    NarrowScope.@Nullable Scopes narrow = scopes.to(needs, place -> matters(round, numbers, place));
    if (narrow == null || (!views && narrow.scope().isEmpty() && narrow.viewScope().isEmpty())) {
      return null;
    }
    Contents.Content less = Contents.part(whole, permissions);
    Gives gives =
        less.equals(new Contents.Content(whole.free(), whole.factor(), Set.of()))
                && whole.deny().isEmpty()
            ? it.gives()
            : contents.giving(
                less, it.gives(), ScopeCoverage.homeOf(it.subject(), round.catalogue));
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

  private static void addNeed(
      Round round,
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

  private static boolean matters(Round round, List<Integer> permissions, ResourceKey place) {
    int position = round.study.position(place);
    return permissions.stream().anyMatch(it -> round.study.applies(it, position));
  }

  // ---- members and guests -----------------------------------------------------------------------

  private List<Move> leaving(Round round) {
    Map<Integer, Set<GroupKey>> used = new HashMap<>();
    Map<Integer, Set<AccountKey>> accounts = new HashMap<>();
    round.chosen.givers.forEach((person, givers) -> {
      for (int giver : givers) {
        Thing it = round.obligations.thing(giver);
        Subject subject =
            it instanceof Bridge bridge
                ? new Subject.OfGroup(bridge.group())
                : ((Assignment) it).subject();
        if (subject instanceof Subject.OfGroup(GroupKey key)) {
          used.computeIfAbsent(person, _ -> new HashSet<>()).add(key);
        }
        if (subject instanceof Subject.OfAccount(var key)) {
          accounts.computeIfAbsent(person, _ -> new HashSet<>()).add(key);
        }
      }
    });
    Map<GroupKey, Set<GroupKey>> within = within(round.catalogue);
    Set<GroupKey> giving = new HashSet<>();
    for (Assignment it : round.catalogue.assignments().values()) {
      if (it.subject() instanceof Subject.OfGroup(GroupKey key)) {
        giving.add(key);
      }
    }
    round.catalogue.bridges().values().forEach(it -> giving.add(it.group()));
    List<Move> moves = new ArrayList<>();
    for (Group group : round.catalogue.groups().values()) {
      Set<GroupKey> ups = within.getOrDefault(group.key(), Set.of(group.key()));
      if (group.retired() || round.isUntouched(group) || ups.stream().noneMatch(giving::contains)) {
        continue;
      }
      for (Group.Member member : group.members()) {
        List<Integer> whom = whom(round, member);
        boolean touched =
            round.selected == null || whom.stream().anyMatch(round.selected::contains);
        boolean needed =
            whom.stream()
                .anyMatch(it -> used.getOrDefault(it, Set.of()).stream().anyMatch(ups::contains));
        if (touched && !needed && !whom.isEmpty()) {
          moves.add(new Move.Leave(group.key(), member, new ShrinkStep.Why.NothingByIt()));
        }
      }
    }
    for (Guest guest : new LinkedHashSet<>(round.catalogue.guests())) {
      Integer person = round.people.get(guest.principal());
      boolean touched = round.selected == null || round.selected.contains(person);
      if (person != null && touched && needsNothing(round, guest, person, used, accounts)) {
        moves.add(
            new Move.EndGuest(guest, subject(round, guest), new ShrinkStep.Why.NothingByIt()));
      }
    }
    return moves;
  }

  private static Subject subject(Round round, Guest guest) {
    Principal who = round.catalogue.principals().get(guest.principal());
    return new Subject.OfPrincipal(
        who == null ? Principal.Kind.PERSON : who.kind(), guest.principal());
  }

  private static List<Integer> whom(Round round, Group.Member member) {
    return switch (member) {
      case Group.Member.OfPrincipal(var _, var key) -> {
        Integer person = round.people.get(key);
        yield person == null ? List.of() : List.of(person);
      }
      case Group.Member.OfGroup(GroupKey key) -> round.having(new Subject.OfGroup(key));
    };
  }

  private boolean needsNothing(
      Round round,
      Guest guest,
      int person,
      Map<Integer, Set<GroupKey>> used,
      Map<Integer, Set<AccountKey>> accounts) {
    Catalogue catalogue = round.catalogue;
    Principal who = round.principal(person);
    if (who == null || !guest.window().holdsAt(at)) {
      return false;
    }
    for (GroupKey key : used.getOrDefault(person, Set.of())) {
      Group group = catalogue.groups().get(key);
      if (group != null && covers(guest, group.account(), catalogue)) {
        return false;
      }
    }
    if (accounts.getOrDefault(person, Set.of()).stream()
        .anyMatch(it -> covers(guest, it, catalogue))) {
      return false;
    }
    for (long cell : round.obligations.cells(person)) {
      var account = catalogue.accountOf(round.study.resource(Cells.position(cell)));
      if (account != null
          && covers(guest, account, catalogue)
          && !catalogue.isAtOrBelow(account, who.account())) {
        return false;
      }
    }
    return true;
  }

  private static boolean covers(Guest guest, AccountKey account, Catalogue catalogue) {
    return account.equals(guest.account())
        || (guest.withSubaccounts() && catalogue.isAtOrBelow(account, guest.account()));
  }

  /** By group: itself and all groups that contain it, however far. */
  private static Map<GroupKey, Set<GroupKey>> within(Catalogue catalogue) {
    Map<GroupKey, Set<GroupKey>> parents = new LinkedHashMap<>();
    for (Group group : catalogue.groups().values()) {
      for (Group.Member member : group.members()) {
        if (!group.retired() && member instanceof Group.Member.OfGroup(GroupKey key)) {
          parents.computeIfAbsent(key, _ -> new HashSet<>()).add(group.key());
        }
      }
    }
    Map<GroupKey, Set<GroupKey>> within = new HashMap<>();
    for (GroupKey key : catalogue.groups().keySet()) {
      Set<GroupKey> all = new HashSet<>();
      climb(key, parents, all);
      within.put(key, all);
    }
    return within;
  }

  private static void climb(GroupKey key, Map<GroupKey, Set<GroupKey>> parents, Set<GroupKey> all) {
    if (all.add(key)) {
      parents.getOrDefault(key, Set.of()).forEach(it -> climb(it, parents, all));
    }
  }

  // ---- what is sound ----------------------------------------------------------------------------

  /** Those that only take away are judged faster: they go by themselves. */
  private void acceptAll(List<Move> moves) {
    accept(moves.stream().filter(this::onlyTakes).toList());
    accept(moves.stream().filter(it -> !onlyTakes(it)).toList());
  }

  private void accept(List<Move> moves) {
    if (moves.isEmpty()) {
      return;
    }
    Tried tried = tried(moves);
    if (tried.verdict().sound()) {
      take(moves, tried.after());
      return;
    }
    if (moves.size() == 1) {
      for (Move instead : moves.getFirst().instead()) {
        Tried other = tried(List.of(instead));
        if (other.verdict().sound()) {
          take(List.of(instead), other.after());
          return;
        }
      }
      return;
    }
    List<Move> others = notConcerning(moves, tried.verdict().people());
    if (!others.isEmpty() && others.size() < moves.size()) {
      accept(others);
      List<Move> rest = new ArrayList<>(moves);
      rest.removeAll(new HashSet<>(others));
      halves(rest);
    } else {
      halves(moves);
    }
  }

  private void halves(List<Move> moves) {
    if (moves.size() == 1) {
      accept(moves);
    } else {
      accept(moves.subList(0, moves.size() / 2));
      accept(moves.subList(moves.size() / 2, moves.size()));
    }
  }

  /** People by whom moves are told apart. */
  private static final int MOST_BLAMED = 50;

  /** Moves that change nothing for some people. */
  private List<Move> notConcerning(List<Move> moves, List<PrincipalKey> people) {
    List<PrincipalKey> blamed = people.subList(0, Math.min(MOST_BLAMED, people.size()));
    List<Predicate<Subject>> have = blamed.stream().map(it -> now.subjectsOf(it, at)).toList();
    return moves.stream()
        .filter(move -> {
          Subject subject = move.subject();
          return have.stream().noneMatch(it -> it.test(subject));
        })
        .toList();
  }

  /** A model after some moves, and how it is judged. */
  private record Tried(Engine after, Soundness.Verdict verdict) {}

  private Tried tried(List<Move> moves) {
    List<Change> changes = changes(moves, now.catalogue());
    if (changes.isEmpty()) {
      return new Tried(now, Soundness.Verdict.UNSOUND);
    }
    try {
      Engine next = now.after(changes);
      boolean takesOnly = moves.stream().allMatch(this::onlyTakes);
      return new Tried(next, soundness.judge(now, next, changes, takesOnly));
    } catch (IllegalArgumentException _) {
      return new Tried(now, Soundness.Verdict.UNSOUND); // it leaves a model with a fault
    }
  }

  /**
   * Whether a move takes away nothing but what allows. An assignment that is narrowed does so by
   * construction, which is proved again of all of it in the end.
   */
  private boolean onlyTakes(Move move) {
    return switch (move) {
      case Move.EndAssignment end -> contents.of(end.it()).deny().isEmpty();
      case Move.EndBridge end -> contents.of(end.it().gives(), false).deny().isEmpty();
      case Move.Narrow narrow ->
          !soundness.isCareful() && contents.of(narrow.it()).deny().isEmpty();
      case Move.Leave leave -> !soundness.isCareful() && !denying.contains(leave.group());
      case Move.Give _, Move.EndGuest _ -> false;
    };
  }

  /** The groups by which somebody is denied something, by themselves or a group around them. */
  private Set<GroupKey> denying = Set.of();

  private Set<GroupKey> denying() {
    Set<GroupKey> some = new HashSet<>();
    for (Assignment it : now.catalogue().assignments().values()) {
      if (it.subject() instanceof Subject.OfGroup(GroupKey key)
          && !contents.of(it).deny().isEmpty()) {
        some.add(key);
      }
    }
    for (Bridge it : now.catalogue().bridges().values()) {
      if (!contents.of(it.gives(), false).deny().isEmpty()) {
        some.add(it.group());
      }
    }
    Set<GroupKey> all = new HashSet<>();
    within(now.catalogue())
        .forEach((group, around) -> {
          if (around.stream().anyMatch(some::contains)) {
            all.add(group);
          }
        });
    return all;
  }

  private static List<Change> changes(List<Move> moves, Catalogue from) {
    ChangeBatch batch = new ChangeBatch(from);
    moves.forEach(it -> it.into(batch));
    return batch.changes();
  }

  /** Each move is told by itself, on the model that the ones before left. */
  private void take(List<Move> moves, Engine next) {
    Catalogue last = now.catalogue();
    for (Move move : moves) {
      List<Change> changes = changes(List.of(move), last);
      if (!changes.isEmpty()) {
        steps.add(new ShrinkStep(changes, move.why()));
        last = Draft.of(changes).appliedUnchecked(last);
      }
    }
    now = next;
  }

  // ---- single moves -----------------------------------------------------------------------------

  /** Tries each single move on a model that is small: then none is left that is sound and tells. */
  private void polish() {
    int moves =
        now.catalogue().assignments().size()
            + now.catalogue().guests().size()
            + now.catalogue().groups().values().stream().mapToInt(it -> it.members().size()).sum();
    if (moves > SMALL) {
      return;
    }
    boolean found = true;
    while (found) {
      found = false;
      denying = denying();
      for (Move move : singles()) {
        Tried tried = tried(List.of(move));
        if (tried.verdict().sound() && lowers(tried.after())) {
          take(List.of(move), tried.after());
          found = true;
          break;
        }
      }
    }
  }

  private boolean lowers(Engine next) {
    long was = exposure();
    ExcessStudy after = next.excess(next, Use.NONE, order.window());
    return after.of(after.everybody()).stream().mapToLong(Excess::exposure).sum() < was;
  }

  private List<Move> singles() {
    Round round = new Round();
    ShrinkStep.Why why = new ShrinkStep.Why.NothingByIt();
    List<Move> moves = new ArrayList<>();
    for (Assignment it : round.catalogue.assignments().values()) {
      int giver = round.giver(it);
      if (!round.fixed.get(giver)) {
        ShrinkStep.Why unneeded = unneeded(round, giver);
        moves.add(new Move.EndAssignment(it, unneeded, List.of()));
        if (order.tight() > 0) {
          contents
              .lesser(contents.of(it))
              .forEach(less ->
                  moves.add(
                      new Move.Give(
                          it,
                          less,
                          new ShrinkStep.Why.Narrowed(
                              round.holders.getOrDefault(giver, List.of()).size(),
                              round
                                  .chosen
                                  .cells
                                  .getOrDefault(giver, new Cells())
                                  .people()
                                  .size()))));
        }
      }
    }
    for (Bridge it : round.catalogue.bridges().values()) {
      if (!round.fixed.get(round.giver(it))) {
        moves.add(new Move.EndBridge(it, unneeded(round, round.giver(it))));
      }
    }
    for (Group group : round.catalogue.groups().values()) {
      if (!round.isUntouched(group)) {
        for (Group.Member member : group.members()) {
          List<Integer> whom = whom(round, member);
          if (round.selected == null || whom.stream().anyMatch(round.selected::contains)) {
            moves.add(new Move.Leave(group.key(), member, why));
          }
        }
      }
    }
    for (Guest guest : new LinkedHashSet<>(round.catalogue.guests())) {
      Integer person = round.people.get(guest.principal());
      if (round.selected == null || (person != null && round.selected.contains(person))) {
        moves.add(new Move.EndGuest(guest, subject(round, guest), why));
      }
    }
    return moves;
  }
}
