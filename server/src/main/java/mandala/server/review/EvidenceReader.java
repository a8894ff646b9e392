package mandala.server.review;

import java.time.Instant;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.Set;
import java.util.TreeSet;
import mandala.core.analysis.Peers;
import mandala.core.change.Change;
import mandala.core.change.Removal;
import mandala.core.detect.Detection;
import mandala.core.detect.Trouble;
import mandala.core.engine.Engine;
import mandala.core.excess.ExcessStudy;
import mandala.core.excess.Use;
import mandala.core.excess.UseWindow;
import mandala.core.model.Assignment;
import mandala.core.model.Catalogue;
import mandala.core.model.Exclusion;
import mandala.core.model.Kind;
import mandala.core.model.Permission;
import mandala.core.model.Principal;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.present.Access;
import mandala.core.question.Extent;
import mandala.core.question.Impact;
import mandala.core.question.Session;
import mandala.core.question.Verdict;
import mandala.core.review.ItemEffect;
import mandala.core.review.ItemStudy;
import mandala.core.review.Recommendation;
import mandala.core.review.ReviewItem;
import mandala.core.review.ReviewItems;
import mandala.document.ChangeText;
import mandala.document.Naming;
import mandala.document.ReviewText;
import mandala.document.TroubleText;
import mandala.server.authorization.ReadPolicy;
import mandala.server.authorization.RequestContext;
import mandala.server.compliance.BrokenRules;
import mandala.server.excess.ExcessStudies;
import mandala.server.finding.FoundTroubles;
import mandala.server.question.FigureView;
import mandala.server.use.UseReadings;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/**
 * Puts the evidence for a decision together, on the newest revision, for whoever must decide: cut
 * to what section 11 lets them read while the item is open.
 */
@Component
class EvidenceReader {

  /** Maximum number of permissions that are listed. */
  private static final int PERMISSIONS = 10;

  /** Maximum number of colleagues who are compared with. */
  private static final int COLLEAGUES = 60;

  /** Number of stretches of a line of use. */
  private static final int STRETCHES = 18;

  /** Fewer colleagues than these are "few" to whoever may not ask about them. */
  private static final int FEW = 5;

  private final KnownItems known;
  private final ItemOrigins origins;
  private final ExcessStudies studies;
  private final UseReadings readings;
  private final FoundTroubles troubles;
  private final BrokenRules rules;
  private final ReviewStore store;

  EvidenceReader(
      KnownItems known,
      ItemOrigins origins,
      ExcessStudies studies,
      UseReadings readings,
      FoundTroubles troubles,
      BrokenRules rules,
      ReviewStore store) {
    this.known = known;
    this.origins = origins;
    this.studies = studies;
    this.readings = readings;
    this.troubles = troubles;
    this.rules = rules;
    this.store = store;
  }

  /** {@return the findings that an item is part of} */
  List<Detection> findings(ReviewItem item, Catalogue catalogue) {
    return ItemFindings.of(
            troubles.all().stream().filter(it -> isNear(it.trouble(), item)).toList(), catalogue)
        .of(item);
  }

  /** So that not all findings are sorted for one item. */
  private static boolean isNear(Trouble it, ReviewItem item) {
    return it.names().contains(item.about())
        || (item.removal() instanceof Removal.Unassign(AssignmentKey key)
            && it.about().equals(key));
  }

  // ---- one item ---------------------------------------------------------------------------------

  /** {@return an item with its evidence} */
  ItemView of(RoundItem it, RequestContext context) {
    Instant now = context.readPolicy().now().truncatedTo(ChronoUnit.SECONDS);
    Engine engine = context.state().engine();
    ReviewItems items = known.of(context.state(), now);
    Engine asked = engine;
    if (it.control()) {
      Engine with = RoundMaker.withControl(engine, it.item());
      asked = with == null ? engine : with;
    }
    ItemStudy study = new ItemStudy(asked, items, now);
    ItemEffect effect = study.effect(it.item()).orElse(null);
    List<Detection> findings = findings(it.item(), engine.catalogue());
    ItemNaming naming = new ItemNaming(context).with(it.item());
    if (effect == null) {
      return ofMany(it, findings, naming, asked, now, context);
    }
    return new OfOne(it, context, asked, study, effect, findings, naming, now).view();
  }

  /** Of several people, or of nobody's rights. */
  private ItemView ofMany(
      RoundItem it,
      List<Detection> findings,
      ItemNaming naming,
      Engine engine,
      Instant now,
      RequestContext context) {
    Impact impact = ReviewItems.givesNoPermission(it.item()) ? null : impact(it, engine, now);
    ReadPolicy policy = context.readPolicy();
    List<Impact.Person> told =
        impact == null
            ? List.of()
            : impact.people().stream()
                .filter(each -> each.lost() > 0 && policy.maySeeAllOf(each.principal()))
                .toList();
    return new ItemView(
        ItemRows.open(it, context),
        facts(it, context, now),
        false,
        impact == null ? null : told.stream().mapToLong(Impact.Person::lost).sum(),
        impact == null ? 0 : told.stream().mapToLong(Impact.Person::gained).sum(),
        impact == null ? null : told.stream().mapToLong(Impact.Person::rerouted).sum(),
        impact == null ? null : told.size(),
        List.of(),
        0,
        List.of(),
        null,
        null,
        null,
        new ItemView.ItemUse(0, null, List.of(), false),
        null,
        given(it, engine.catalogue()),
        List.of(),
        titles(findings),
        null,
        reductions(it, findings, engine, now, naming),
        history(it, engine.catalogue()));
  }

  private String facts(RoundItem it, RequestContext context, Instant now) {
    return it.control() ? it.facts() : known.facts(it.item(), context.state(), now);
  }

  private static @Nullable Impact impact(RoundItem it, Engine engine, Instant now) {
    List<Change> changes = it.item().removal().in(engine.catalogue());
    if (changes.isEmpty()) {
      return null;
    }
    try {
      return engine.impactWithRoutes(
          engine.after(changes), changes, now, true, Impact.Watch.TO_THE_END);
    } catch (IllegalArgumentException _) {
      return null; // the model would have faults without it
    }
  }

  private static List<String> titles(List<Detection> findings) {
    return findings.stream()
        .map(each -> TroubleText.title(each.trouble().detector()))
        .distinct()
        .toList();
  }

  private static List<ItemView.ItemReduction> reductions(
      RoundItem it, List<Detection> findings, Engine engine, Instant now, Naming naming) {
    Catalogue catalogue = engine.catalogue();
    ChangeText text = new ChangeText(catalogue, catalogue, naming);
    return Reductions.of(it.item(), findings, engine, now).stream()
        .map(way ->
            new ItemView.ItemReduction(
                way.key(),
                way.label(),
                way.changes().stream().flatMap(each -> text.sentences(each).stream()).toList(),
                way.needsTime()))
        .toList();
  }

  private ItemView.@Nullable ItemOrigin given(RoundItem it, Catalogue catalogue) {
    if (it.control()) {
      return null;
    }
    // whoever must decide may read who gave it and when (section 11)
    ChangeText text = new ChangeText(catalogue, catalogue, Naming.ALL);
    return origins
        .of(it.item())
        .map(entry ->
            new ItemView.ItemOrigin(
                entry.number(),
                entry.at(),
                entry.author() == null ? null : text.name(Kind.PRINCIPALS, entry.author()),
                entry.title(),
                entry.reason()))
        .orElse(null);
  }

  private List<ItemView.ItemAct> history(RoundItem it, Catalogue catalogue) {
    ChangeText text = new ChangeText(catalogue, catalogue, Naming.ALL);
    return store.acts(it.round(), it.number()).stream()
        .map(act ->
            new ItemView.ItemAct(
                act.act(),
                act.who() == null ? null : text.name(Kind.PRINCIPALS, act.who()),
                act.at(),
                act.verdict(),
                act.said(),
                act.whom() == null ? null : text.name(Kind.PRINCIPALS, act.whom())))
        .toList();
  }

  /** The evidence of what one principal has. */
  private final class OfOne {
    private final RoundItem it;
    private final RequestContext context;
    private final Engine engine;
    private final Catalogue catalogue;
    private final ItemStudy study;
    private final ItemEffect effect;
    private final List<Detection> findings;
    private final ItemNaming naming;
    private final Instant now;
    private final Principal who;
    private final Access staying;
    private final Access given;
    private final UseWindow window;
    private final ExcessStudy.Shares shares;

    OfOne(
        RoundItem it,
        RequestContext context,
        Engine engine,
        ItemStudy study,
        ItemEffect effect,
        List<Detection> findings,
        ItemNaming naming,
        Instant now) {
      this.it = it;
      this.context = context;
      this.engine = engine;
      this.study = study;
      this.effect = effect;
      this.findings = findings;
      this.now = now;
      catalogue = engine.catalogue();
      who = Objects.requireNonNull(catalogue.principals().get(effect.whose()));
      staying = study.staying(it.item(), effect);
      given = Access.together(List.of(effect.taken(), staying));
      this.naming = naming.with(given);
      window = studies.window(null, now);
      ExcessStudies.Past past = studies.past(window, context.state(), context.state());
      shares = studies.of(List.of(effect.whose()), window, engine, past).shares(effect.whose());
    }

    ItemView view() {
      ReadPolicy policy = context.readPolicy();
      boolean whole = policy.maySeeAllOf(effect.whose());
      List<ItemView.TakenPermission> permissions = permissions();
      Peers peers = Peers.of(engine, who, now);
      Access compared = effect.takes() > 0 ? effect.taken() : staying;
      List<PrincipalKey> colleagues =
          compared.rights() == 0 ? List.of() : peers.people().stream().limit(COLLEAGUES).toList();
      int having = having(colleagues, compared);
      List<String> conflicts = conflicts();
      Recommendation advice = advice(colleagues.size(), having, !conflicts.isEmpty());
      return new ItemView(
          ItemRows.open(it, context),
          facts(it, context, now),
          effect.activated(),
          effect.takes(),
          effect.gives(),
          staying.rights(),
          null,
          permissions.stream().limit(PERMISSIONS).toList(),
          Math.max(0, permissions.size() - PERMISSIONS),
          companions(),
          figure(whole ? effect.held() : given),
          figure(whole ? effect.left() : staying),
          whole ? effect.left().rights() : null,
          use(),
          colleagues.isEmpty() ? null : colleagues(peers, colleagues, having, compared),
          EvidenceReader.this.given(it, catalogue),
          conflicts,
          titles(findings),
          new ItemView.ItemAdvice(
              FigureView.word(advice.verdict()),
              advice.reasons().stream().map(ReviewText::of).toList(),
              FigureView.word(advice.certainty())),
          reductions(it, findings, engine, now, naming),
          history(it, catalogue));
    }

    private FigureView figure(Access access) {
      return FigureView.of(access.figure(Extent.WHOLE), catalogue, naming, true);
    }

    private List<ItemView.TakenPermission> permissions() {
      List<ItemView.TakenPermission> all = new ArrayList<>();
      ChangeText text = new ChangeText(catalogue, catalogue, naming);
      Access shown = effect.takes() > 0 ? effect.taken() : staying;
      for (PermissionKey key : shown.permissions()) {
        Permission permission = Objects.requireNonNull(catalogue.permissions().get(key));
        long places = shown.intervals(key).stream().mapToLong(Access.Interval::count).sum();
        all.add(
            new ItemView.TakenPermission(
                key.value(),
                text.name(Kind.PERMISSIONS, key.value()),
                FigureView.word(permission.accessClass()),
                FigureView.word(permission.risk()),
                places));
      }
      all.sort(
          Comparator.comparingInt((ItemView.TakenPermission each) ->
                  -Permission.Risk.valueOf(each.risk().toUpperCase(Locale.ROOT)).ordinal())
              .thenComparingLong(each -> -each.places())
              .thenComparing(ItemView.TakenPermission::name));
      return all;
    }

    /** What else would have to go; what may not be named is described without its name. */
    private List<ItemView.CompanionItem> companions() {
      List<ReviewItem> set = study.sufficient(it.item(), effect, staying);
      List<ItemView.CompanionItem> told = new ArrayList<>();
      for (ReviewItem each : set) {
        ItemNaming may = new ItemNaming(context).with(staying);
        boolean own = store.byId(it.round(), each.id()).isPresent();
        if (own || context.readPolicy().maySeeAllOf(effect.whose())) {
          may.with(each);
        }
        told.add(
            new ItemView.CompanionItem(
                context.mark("item " + each.id()), new ReviewText(catalogue, may).of(each)));
      }
      return told;
    }

    private int having(List<PrincipalKey> colleagues, Access compared) {
      int having = 0;
      for (PrincipalKey each : colleagues) {
        Access theirs = engine.access(new Session(each, now, true, null));
        having += compared.beyond(theirs).rights() == 0 ? 1 : 0;
      }
      return having;
    }

    private ItemView.ItemColleagues colleagues(
        Peers peers, List<PrincipalKey> colleagues, int having, Access compared) {
      Use use = readings.of(colleagues, window);
      int using =
          (int)
              colleagues.stream()
                  .filter(each -> use.of(each).stream().anyMatch(used -> isOf(compared, used)))
                  .count();
      boolean exact = colleagues.stream().allMatch(context.readPolicy()::maySeeAllOf);
      return new ItemView.ItemColleagues(
          FigureView.word(peers.basis()),
          count(colleagues.size(), exact),
          count(having, exact),
          count(using, exact));
    }

    private static String count(int many, boolean exact) {
      return exact || many >= FEW ? String.valueOf(many) : "few";
    }

    private boolean isOf(Access access, Use.Used used) {
      return catalogue.permissions().containsKey(used.permission())
          && catalogue.has(used.resource())
          && access.verdict(used.permission(), used.resource()) == Verdict.ALLOWED;
    }

    private ItemView.ItemUse use() {
      int[] line = new int[STRETCHES];
      LocalDate last = null;
      Set<LocalDate> days = new TreeSet<>();
      for (UseReadings.UsedOn used : readings.days(effect.whose(), window)) {
        if (isOf(given, new Use.Used(used.permission(), used.resource(), used.day(), 1))
            && days.add(used.day())) {
          long day = ChronoUnit.DAYS.between(window.first(), used.day());
          line[(int) Math.min(STRETCHES - 1, day * STRETCHES / window.days())]++;
          last = last == null || used.day().isAfter(last) ? used.day() : last;
        }
      }
      long needed = effect.takenOf(shares.needed());
      long unobserved = effect.takenOf(shares.kept()) - needed;
      return new ItemView.ItemUse(
          window.days(),
          last,
          Arrays.stream(line).boxed().toList(),
          last != null || unobserved < Math.max(1, effect.takes()));
    }

    private List<String> conflicts() {
      List<String> found = new ArrayList<>();
      Set<PermissionKey> taken = effect.taken().permissions();
      for (String id : rules.since().keySet()) {
        if (!id.startsWith("exclusion-broken ") || !id.endsWith(" " + effect.whose())) {
          continue;
        }
        for (Exclusion each : catalogue.exclusions().values()) {
          boolean its = id.equals("exclusion-broken " + each.key() + " " + effect.whose());
          if (its && each.sides().stream().flatMap(Collection::stream).anyMatch(taken::contains)) {
            found.add(new ChangeText(catalogue, catalogue, naming).name(each));
          }
        }
      }
      return found;
    }

    private Recommendation advice(int colleagues, int having, boolean conflict) {
      long needed = effect.takenOf(shares.needed());
      long kept = effect.takenOf(shares.kept());
      return Recommendation.of(
          new Recommendation.Evidence(
              engine.isActive(effect.whose(), now),
              hasBegun(),
              it.item().removal() instanceof Removal.Unassign,
              effect.takes(),
              staying.rights(),
              effect.gives(),
              needed,
              kept - needed,
              colleagues,
              having,
              findings.stream().anyMatch(each -> each.trouble() instanceof Trouble.LeftOver),
              conflict));
    }

    private boolean hasBegun() {
      if (it.item().removal() instanceof Removal.Unassign(AssignmentKey key)) {
        Assignment assignment = catalogue.assignments().get(key);
        return assignment == null
            || assignment.window().from() == null
            || !assignment.window().from().isAfter(now);
      }
      return true;
    }
  }
}
