package mandala.server.excess;

import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.function.Predicate;
import mandala.core.change.Change;
import mandala.core.engine.Engine;
import mandala.core.excess.Excess;
import mandala.core.excess.ExcessStudy;
import mandala.core.excess.Use;
import mandala.core.excess.UseWindow;
import mandala.core.model.Assignment;
import mandala.core.model.Bridge;
import mandala.core.model.Catalogue;
import mandala.core.model.Group;
import mandala.core.model.Guest;
import mandala.core.model.Kind;
import mandala.core.model.Principal;
import mandala.core.model.Subject;
import mandala.core.model.Supplied;
import mandala.core.model.Thing;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.Key;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.question.Impact;
import mandala.core.shrink.RarelyUsed;
import mandala.core.shrink.ShrinkOrder;
import mandala.core.shrink.ShrinkStep;
import mandala.core.shrink.ShrinkStops;
import mandala.core.shrink.Shrinker;
import mandala.document.ChangeTeller;
import mandala.document.ShrinkText;
import mandala.document.ThingDocument;
import mandala.document.ThingText;
import mandala.server.authorization.RequestContext;
import mandala.server.job.JobKind;
import mandala.server.job.JobRun;
import mandala.server.use.UseReadings;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/**
 * Proposes a smaller model for some people, and where one may stop on the way to it. Only what its
 * owner may read and change is touched; exposures count those about whom they may ask.
 */
@Component
class TrimJob implements JobKind {

  static final String NAME = "trim";

  /** Maximum number of points at which one may stop. */
  private static final int POINTS = 16;

  /** Maximum number of days on which something rarely used is used, unless an order says else. */
  private static final int RARE = 5;

  /** How far it is, in percent, when the smaller model is found, and when its stops are. */
  private static final int FOUND = 70;

  private static final int STOPS = 95;

  private static final JsonMapper JSON = JsonMapper.builder().build();

  private final ExcessStudies studies;
  private final UseReadings readings;

  TrimJob(ExcessStudies studies, UseReadings readings) {
    this.studies = studies;
    this.readings = readings;
  }

  /**
   * What is asked.
   *
   * @param of see {@link SelectedPeople#of}
   * @param days of the window; those of the policy where null
   * @param others whether what they get together with others is touched too
   * @param split whether a group's assignment may be replaced by some to its members
   * @param clauses how many clauses a narrowed scope has at most
   * @param untouched what stays as it is: kind, colon, key
   * @param rareDays on how many days something is used that is rarely used
   */
  record Order(
      List<String> of,
      @Nullable Integer days,
      boolean others,
      boolean split,
      @Nullable Integer clauses,
      List<String> untouched,
      @Nullable Integer rareDays) {}

  @Override
  public String name() {
    return NAME;
  }

  @Override
  public void run(JobRun run) {
    Order order = JSON.treeToValue(run.order().details(), Order.class);
    RequestContext context = run.context(null, null);
    Engine engine = context.state().engine();
    UseWindow window = studies.window(order.days(), context.readPolicy().now());
    SelectedPeople whom = SelectedPeople.of(order.of(), window.at(), context);
    ExcessStudies.Past past = studies.past(window, context.state(), context.state());
    ShrinkOrder all = shrinkOrder(order, whom, window, context);
    boolean narrows = mayDefine(all, context);
    ShrinkOrder wanted = all.tight(narrows ? 1 : 0);
    Shrinker.Answer answer = Shrinker.of(engine, past.engine(), wanted, progress(run, 0, FOUND));
    ChangeTeller teller = new ChangeTeller(engine.catalogue(), context.naming());
    List<TrimAnswer.TrimStep> steps =
        answer.steps().stream().map(it -> step(it, teller, window)).toList();
    Exposures exposures = new Exposures(engine, past, all.use(), window, whom, context);
    List<TrimAnswer.TrimPoint> points = new ArrayList<>();
    Engine[] last = {engine};
    ShrinkStops.each(
        engine,
        past.engine(),
        wanted,
        answer.steps(),
        POINTS,
        (taken, changes, after) -> {
          points.add(exposures.point(taken, changes, after));
          last[0] = after;
        },
        progress(run, FOUND, STOPS));
    int rareDays = order.rareDays() == null ? RARE : order.rareDays();
    run.answer(
        new TrimAnswer(
            context.state().revision(),
            whom.name(),
            whom.people().size(),
            whom.part(),
            window.days(),
            exposures.before,
            exposures.floor,
            exposures.own,
            exposures.ownFloor,
            narrows,
            steps,
            points,
            rareDays,
            rare(last[0], past.engine(), all, whom, rareDays, context)));
  }

  private static Impact.Watch progress(JobRun run, int from, int until) {
    return (step, of) -> {
      run.progress(from + (long) (until - from) * step / Math.max(1, of), 100);
      return true;
    };
  }

  private ShrinkOrder shrinkOrder(
      Order order, SelectedPeople whom, UseWindow window, RequestContext context) {
    Set<PrincipalKey> people = Set.copyOf(whom.people());
    Set<String> untouched = Set.copyOf(order.untouched());
    Engine engine = context.state().engine();
    boolean everybody = !whom.part() && order.of().contains(SelectedPeople.EVERYBODY);
    ShrinkOrder all =
        ShrinkOrder.of(window, readings.all(window), readings.acted(window))
            .without(untouchable(context))
            .without(it -> untouched.contains(named(it)))
            .without(it -> !order.others() && !everybody && !isOwn(it, people, engine, window))
            .splitting(order.split());
    all = order.clauses() == null ? all : all.clauses(order.clauses());
    return everybody ? all : all.only(subjects(whom, engine.catalogue()));
  }

  private static List<Subject> subjects(SelectedPeople whom, Catalogue catalogue) {
    List<Subject> subjects = new ArrayList<>();
    for (PrincipalKey key : whom.people()) {
      Principal it = catalogue.principals().get(key);
      if (it != null) {
        subjects.add(new Subject.OfPrincipal(it.kind(), key));
      }
    }
    return subjects;
  }

  private static String named(Thing it) {
    Key key = it.key();
    return key == null ? "" : Kind.of(it).field() + ":" + key.value();
  }

  private static Predicate<Thing> untouchable(RequestContext context) {
    Catalogue live = context.state().engine().catalogue();
    return it ->
        !context.readPolicy().mayRead(it, live)
            || !context.tellsAllOf(it)
            || context.cannotChange(it) != null;
  }

  /** Whether something gives to some people alone, or makes them members or guests. */
  private static boolean isOwn(
      Thing thing, Set<PrincipalKey> people, Engine engine, UseWindow window) {
    return switch (thing) {
      case Assignment it -> isOf(it.subject(), people, engine, window);
      case Bridge it -> isOf(new Subject.OfGroup(it.group()), people, engine, window);
      case Guest it -> people.contains(it.principal());
      case Group _ -> true;
      default -> false;
    };
  }

  private static boolean isOf(
      Subject subject, Set<PrincipalKey> people, Engine engine, UseWindow window) {
    return switch (subject) {
      case Subject.OfPrincipal(var _, PrincipalKey key) -> people.contains(key);
      case Subject.Public _ -> false;
      default -> {
        List<Principal> all = engine.having(subject, window.at());
        yield !all.isEmpty() && all.stream().map(Principal::key).allMatch(people::contains);
      }
    };
  }

  /** Whether the owner may make the sets and roles by which assignments are narrowed. */
  private static boolean mayDefine(ShrinkOrder order, RequestContext context) {
    Catalogue catalogue = context.state().engine().catalogue();
    Set<@Nullable AccountKey> owners = new HashSet<>();
    for (Assignment it : catalogue.assignments().values()) {
      if (!order.untouched().test(it)) {
        owners.add(Shrinker.ownerOfMade(it, catalogue));
      }
    }
    // what is shared belongs to every root account
    return catalogue.accounts().values().stream()
        .filter(it -> owners.contains(it.key()) || (it.parent() == null && owners.contains(null)))
        .allMatch(it -> context.readPolicy().may(Supplied.RIGHTS_DEFINE, ResourceKey.of(it.key())));
  }

  private static TrimAnswer.TrimStep step(ShrinkStep it, ChangeTeller teller, UseWindow window) {
    Thing first = it.changes().getLast().things().getFirst();
    Key key = first.key();
    return new TrimAnswer.TrimStep(
        teller.sentences(it.changes()),
        ShrinkText.why(it.why(), window.days()),
        it.why() instanceof ShrinkStep.Why.Narrowed,
        Kind.of(first).field(),
        key == null ? null : key.value(),
        ThingDocument.write(it.changes()));
  }

  private static List<TrimAnswer.RareAssignment> rare(
      Engine after,
      Engine then,
      ShrinkOrder order,
      SelectedPeople whom,
      int days,
      RequestContext context) {
    ThingText text = new ThingText(after.catalogue(), context.naming());
    return RarelyUsed.of(after, then, order, whom.people(), days).stream()
        .map(it ->
            new TrimAnswer.RareAssignment(
                it.it().key().value(), text.of(it.it()), it.days(), it.last()))
        .toList();
  }

  /** Exposures of those about whom the owner may ask. */
  private static final class Exposures {
    private final Engine engine;
    private final UseWindow window;
    private final Set<PrincipalKey> selected;
    private final Map<PrincipalKey, Long> known = new HashMap<>();
    long before;
    long floor;
    long own;
    long ownFloor;

    Exposures(
        Engine engine,
        ExcessStudies.Past past,
        Use use,
        UseWindow window,
        SelectedPeople whom,
        RequestContext context) {
      this.engine = engine;
      this.window = window;
      selected = new HashSet<>(whom.people());
      ExcessStudy study = engine.excess(past.engine(), use, window);
      List<PrincipalKey> people =
          study.everybody().stream().filter(context.readPolicy()::maySeeAllOf).toList();
      for (Excess it : study.of(people)) {
        known.put(it.principal(), it.exposure());
        before += it.exposure();
        floor += it.exposure() - it.excessExposure();
        if (selected.contains(it.principal())) {
          own += it.exposure();
          ownFloor += it.exposure() - it.excessExposure();
        }
      }
    }

    /** Only of those whom the changes concern can it be another than before. */
    TrimAnswer.TrimPoint point(int steps, List<Change> changes, Engine after) {
      Collection<PrincipalKey> concerned =
          engine.concerned(after, changes, window.at()).stream()
              .filter(known::containsKey)
              .toList();
      long less = 0;
      long ownLess = 0;
      for (Excess it : after.excess(after, Use.NONE, window).of(List.copyOf(concerned))) {
        long gone = Objects.requireNonNull(known.get(it.principal())) - it.exposure();
        less += gone;
        ownLess += selected.contains(it.principal()) ? gone : 0;
      }
      return new TrimAnswer.TrimPoint(
          steps,
          before - less,
          own - ownLess,
          after.catalogue().assignments().size() - engine.catalogue().assignments().size(),
          (int) changes.stream().filter(Change.Added.class::isInstance).count());
    }
  }

  /** {@return the changes of the first steps}, each of which fits what those before left */
  static List<Change> changes(TrimAnswer answer, int steps) {
    List<Change> changes = new ArrayList<>();
    answer
        .steps()
        .subList(0, steps)
        .forEach(it -> changes.addAll(ThingDocument.changes(Objects.requireNonNull(it.changes()))));
    return changes;
  }
}
