package mandala.server.review;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Predicate;
import mandala.core.change.Change;
import mandala.core.change.Removal;
import mandala.core.change.Rewritten;
import mandala.core.engine.Engine;
import mandala.core.excess.ExcessStudy;
import mandala.core.excess.InBatches;
import mandala.core.model.Catalogue;
import mandala.core.model.Group;
import mandala.core.model.Permission;
import mandala.core.model.Principal;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.Key;
import mandala.core.model.key.PrincipalKey;
import mandala.core.question.Impact;
import mandala.core.review.Deciders;
import mandala.core.review.ItemEffect;
import mandala.core.review.ItemStudy;
import mandala.core.review.Recommendation;
import mandala.core.review.ReviewItem;
import mandala.core.review.ReviewItems;
import mandala.document.ReviewText;
import mandala.document.TroubleText;
import mandala.server.question.FigureView;
import org.apache.commons.codec.digest.DigestUtils;
import org.jspecify.annotations.Nullable;

/** Finds the items of a round, who decides them, and what each takes. For one round. */
final class RoundMaker {

  /** Number of people between two looks at the watch. */
  private static final int BATCH = 64;

  /** Number of memberships tried as controls of one reviewer; some would give nothing. */
  private static final int TRIED = 40;

  private final Engine engine;
  private final Catalogue catalogue;
  private final RoundOrder order;
  private final Instant at;
  private final ReviewItems items;
  private final Deciders deciders;
  private final List<List<Deciders.By>> stages;
  private final Known known;

  /**
   * What is known beside the model.
   *
   * @param deputies by whom they stand in for, at the time of making
   * @param givers who made an assignment, by its key
   * @param asked ids that earlier rounds asked about, with the facts of the newest
   * @param inFindings ids that are part of a finding of the detectors that the order names
   */
  record Known(
      Map<String, String> deputies,
      Map<String, String> givers,
      Map<String, String> asked,
      @Nullable Predicate<ReviewItem> inFindings) {}

  RoundMaker(Engine engine, RoundOrder order, Known known, Instant at) {
    this.engine = engine;
    this.catalogue = engine.catalogue();
    this.order = order;
    this.known = known;
    this.at = at;
    items = ReviewItems.of(engine, at);
    deciders = new Deciders(engine, items, at);
    stages = order.deciders();
  }

  /** {@return the items}, in the order in which they are numbered */
  List<ReviewItem> found() {
    return items.in(order.scope()).stream().filter(this::isAsked).toList();
  }

  private boolean isAsked(ReviewItem it) {
    Predicate<ReviewItem> findings = known.inFindings();
    if (findings != null && !findings.test(it)) {
      return false;
    }
    return switch (order.only()) {
      case "never" -> !known.asked().containsKey(it.id());
      case "new" -> !facts(it, items).equals(known.asked().get(it.id()));
      default -> true;
    };
  }

  static String facts(ReviewItem it, ReviewItems items) {
    return DigestUtils.sha256Hex(it.facts(items)).substring(0, 24);
  }

  /**
   * Who decides an item.
   *
   * @param stages one for each stage, empty where there is nobody
   * @param conflict see {@link RoundItem}
   */
  record Decided(List<Optional<Deciders.Chosen>> stages, @Nullable String conflict) {}

  /** {@return who decides each item}, in their order */
  List<Decided> decided(List<ReviewItem> some) {
    List<Decided> all = new ArrayList<>();
    Map<String, Set<String>> about = new HashMap<>();
    for (ReviewItem it : some) {
      Decided chosen = decided(it, null);
      all.add(chosen);
      first(chosen)
          .ifPresent(who ->
              it.whose()
                  .ifPresent(whose ->
                      about
                          .computeIfAbsent(who.who().value(), _ -> new HashSet<>())
                          .add(whose.value())));
    }
    for (int i = 0; i < all.size(); i++) {
      Deciders.Chosen who = first(all.get(i)).orElse(null);
      String whose = some.get(i).whose().map(Key::value).orElse(null);
      if (who != null
          && whose != null
          && about.getOrDefault(whose, Set.of()).contains(who.who().value())) {
        Decided other = order.passOn() ? decided(some.get(i), who.who()) : all.get(i);
        all.set(
            i,
            order.passOn() && first(other).isPresent()
                ? other
                : new Decided(all.get(i).stages(), "each-other"));
      }
    }
    return all;
  }

  private static Optional<Deciders.Chosen> first(Decided it) {
    return it.stages().getFirst();
  }

  private Decided decided(ReviewItem it, @Nullable PrincipalKey not) {
    String giver = giver(it);
    List<Optional<Deciders.Chosen>> chosen = new ArrayList<>();
    String conflict = null;
    for (List<Deciders.By> stage : stages) {
      Optional<Deciders.Chosen> free =
          deciders.of(
              it,
              stage,
              this::deputy,
              who -> who.equals(not) || (order.passOn() && who.value().equals(giver)));
      if (free.isEmpty()) {
        free = deciders.of(it, stage, this::deputy, who -> who.equals(not));
      }
      if (free.isPresent() && free.get().who().value().equals(giver)) {
        conflict = "gave";
      }
      chosen.add(free);
    }
    return new Decided(chosen, conflict);
  }

  private @Nullable String giver(ReviewItem it) {
    return it.removal() instanceof Removal.Unassign(AssignmentKey key)
        ? known.givers().get(key.value())
        : null;
  }

  private Optional<PrincipalKey> deputy(PrincipalKey of) {
    return Optional.ofNullable(known.deputies().get(of.value())).map(PrincipalKey::new);
  }

  // ---- rows -------------------------------------------------------------------------------------

  /** What an item takes, and what is recommended. */
  private record Weighed(@Nullable Long takes, long exposure, @Nullable String recommended) {}

  /**
   * {@return the rows of some items}, controls last
   *
   * @param study of what everybody needs
   * @param watch told how far it is, and asked whether to go on
   */
  List<RoundItem> rows(List<ReviewItem> all, ExcessStudy study, Impact.Watch watch) {
    List<Decided> who = decided(all);
    Map<Key, List<ReviewItem>> byAbout = new LinkedHashMap<>();
    all.forEach(it -> byAbout.computeIfAbsent(it.about(), _ -> new ArrayList<>()).add(it));
    Map<String, Weighed> weighed = new ConcurrentHashMap<>();
    InBatches.of(
        List.copyOf(byAbout.keySet()),
        BATCH,
        watch,
        some ->
            some.forEach(key -> weigh(key, byAbout.getOrDefault(key, List.of()), study, weighed)));
    List<RoundItem> rows = new ArrayList<>();
    for (int i = 0; i < all.size(); i++) {
      Weighed it = weighed.getOrDefault(all.get(i).id(), new Weighed(null, 0, null));
      rows.add(row(all.get(i), i + 1, who.get(i), it, false));
    }
    if (order.controls() > 0) {
      rows.addAll(controls(rows, study));
    }
    return rows;
  }

  private void weigh(
      Key about, List<ReviewItem> some, ExcessStudy study, Map<String, Weighed> into) {
    if (!(about instanceof PrincipalKey who) || !catalogue.principals().containsKey(who)) {
      return;
    }
    ItemStudy effects = new ItemStudy(engine, items, at);
    ExcessStudy.Shares shares = study.shares(who);
    boolean active = engine.isActive(who, at);
    for (ReviewItem it : some) {
      effects
          .effect(it)
          .ifPresent(effect -> into.put(it.id(), weighed(it, effect, shares, active)));
    }
  }

  private Weighed weighed(
      ReviewItem it, ItemEffect effect, ExcessStudy.Shares shares, boolean active) {
    if (it.removal() instanceof Removal.Undelegate) {
      return new Weighed(effect.takes(), effect.exposure(), null);
    }
    long needed = effect.takenOf(shares.needed());
    long kept = effect.takenOf(shares.kept());
    Recommendation recommended =
        Recommendation.of(
            new Recommendation.Evidence(
                active,
                true,
                it.removal() instanceof Removal.Unassign,
                effect.takes(),
                effect.takes() == 0 ? 1 : 0, // whether anything stays is found when it is opened
                effect.gives(),
                needed,
                kept - needed,
                0,
                0,
                false,
                false));
    return new Weighed(effect.takes(), effect.exposure(), FigureView.word(recommended.verdict()));
  }

  private RoundItem row(ReviewItem it, int number, Decided who, Weighed weighed, boolean control) {
    Deciders.Chosen first = first(who).orElse(null);
    Permission.Risk risk = items.risk(it);
    AccountKey account = deciders.accountOf(it);
    return new RoundItem(
        0,
        number,
        it,
        TroubleText.kind(it.about()).field(),
        it.about().value(),
        account == null ? null : account.value(),
        facts(it, items),
        risk == null ? null : FigureView.word(risk),
        weighed.takes(),
        weighed.exposure(),
        weighed.recommended(),
        control,
        0,
        first == null ? null : first.who().value(),
        first == null ? null : ReviewText.word(first.by()),
        first == null || first.insteadOf() == null ? null : first.insteadOf().value(),
        who.stages().stream()
            .skip(1)
            .map(each -> each.map(chosen -> chosen.who().value()).orElse(""))
            .toList(),
        who.conflict(),
        RoundItem.State.OPEN,
        false,
        null,
        null,
        null,
        List.of(),
        null,
        null,
        RoundItem.Effect.NONE);
  }

  // ---- controls ---------------------------------------------------------------------------------

  /**
   * Memberships that nobody has: each reviewer gets a few, of groups and people that other items of
   * theirs name, so that they tell them nothing.
   */
  private List<RoundItem> controls(List<RoundItem> rows, ExcessStudy study) {
    Map<String, List<RoundItem>> byDecider = new LinkedHashMap<>();
    rows.stream()
        .filter(it -> it.decider() != null)
        .forEach(it ->
            byDecider
                .computeIfAbsent(Objects.requireNonNull(it.decider()), _ -> new ArrayList<>())
                .add(it));
    List<RoundItem> made = new ArrayList<>();
    Random random = new Random(rows.size() + at.getEpochSecond());
    byDecider.forEach((_, theirs) -> {
      List<ReviewItem> possible = possible(theirs);
      int wanted = made.size() + order.controls();
      for (int tried = 0; tried < TRIED && made.size() < wanted && !possible.isEmpty(); tried++) {
        ReviewItem it = possible.remove(random.nextInt(possible.size()));
        control(it, theirs.getFirst(), rows.size() + made.size() + 1, study).ifPresent(made::add);
      }
    });
    return made;
  }

  private List<ReviewItem> possible(List<RoundItem> theirs) {
    Set<Removal.Leave> named = new HashSet<>();
    Set<PrincipalKey> people = new HashSet<>();
    for (RoundItem each : theirs) {
      each.item().whose().ifPresent(people::add);
      if (each.item().removal() instanceof Removal.Leave leave
          && leave.member() instanceof Group.Member.OfPrincipal) {
        named.add(leave);
      }
    }
    List<ReviewItem> possible = new ArrayList<>();
    for (Removal.Leave leave : named) {
      for (PrincipalKey who : people) {
        Principal it = catalogue.principals().get(who);
        if (it != null && it.kind() == Principal.Kind.PERSON) {
          ReviewItem item =
              new ReviewItem(
                  new Removal.Leave(
                      leave.group(), new Group.Member.OfPrincipal(it.kind(), it.key())),
                  it.key());
          if (!item.isIn(catalogue) && !possible.contains(item)) {
            possible.add(item);
          }
        }
      }
    }
    possible.sort(Comparator.comparing(ReviewItem::id));
    return possible;
  }

  private Optional<RoundItem> control(
      ReviewItem it, RoundItem like, int number, ExcessStudy study) {
    Engine with = withControl(engine, it);
    if (with == null) {
      return Optional.empty();
    }
    PrincipalKey who = it.whose().orElseThrow();
    ItemEffect effect = new ItemStudy(with, items, at).effect(it).orElse(null);
    if (effect == null || effect.takes() == 0) {
      return Optional.empty();
    }
    Weighed weighed = weighed(it, effect, study.shares(who), true);
    Decided decider =
        new Decided(
            List.of(
                Optional.of(
                    new Deciders.Chosen(
                        new PrincipalKey(Objects.requireNonNull(like.decider())),
                        ReviewText.by(Objects.requireNonNull(like.chosenBy())),
                        null))),
            null);
    return Optional.of(row(it, number, decider, weighed, true));
  }

  /** {@return the model as if a membership that nobody has were in it}; null where it cannot be */
  static @Nullable Engine withControl(Engine engine, ReviewItem it) {
    if (!(it.removal() instanceof Removal.Leave(var key, var member))) {
      return null;
    }
    Group group = engine.catalogue().groups().get(key);
    if (group == null || group.members().contains(member)) {
      return null;
    }
    try {
      return engine.after(List.of(new Change.Altered(group, Rewritten.with(group, member))));
    } catch (IllegalArgumentException _) {
      return null; // somebody of it is gone
    }
  }
}
