package mandala.server.excess;

import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.function.Predicate;
import mandala.core.change.Change;
import mandala.core.change.Draft;
import mandala.core.engine.Engine;
import mandala.core.excess.Excess;
import mandala.core.excess.ExcessStudy;
import mandala.core.excess.Use;
import mandala.core.excess.UseWindow;
import mandala.core.model.Assignment;
import mandala.core.model.Catalogue;
import mandala.core.model.Group;
import mandala.core.model.Guest;
import mandala.core.model.Principal;
import mandala.core.model.Subject;
import mandala.core.model.Supplied;
import mandala.core.model.Thing;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.rule.ScopeCoverage;
import mandala.core.shrink.ShrinkOrder;
import mandala.core.shrink.ShrinkStep;
import mandala.core.shrink.Shrinker;
import mandala.document.ChangeTeller;
import mandala.document.ShrinkText;
import mandala.document.ThingDocument;
import mandala.server.authorization.AskablePrincipal;
import mandala.server.authorization.RequestContext;
import mandala.server.job.JobKind;
import mandala.server.job.JobRun;
import mandala.server.platform.Problem;
import mandala.server.use.UseReadings;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/**
 * Proposes smaller models for one person, from the safest to the tightest. Only what its owner may
 * read and change is touched; exposure is told of those about whom they may ask.
 */
@Component
class TrimJob implements JobKind {

  static final String NAME = "trim";

  /** From ending what nobody uses to giving exactly what is needed. */
  private static final List<Double> TIGHT = List.of(0.0, 0.5, 1.0);

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
   * @param days of the window
   * @param others whether what they get together with others is touched too
   */
  record Order(String principal, @Nullable Integer days, boolean others) {}

  @Override
  public String name() {
    return NAME;
  }

  @Override
  public void run(JobRun run) {
    Order order = JSON.treeToValue(run.order().details(), Order.class);
    RequestContext context = run.context(null, null);
    AskablePrincipal whom = AskablePrincipal.of(context, order.principal(), null);
    requireWhole(whom);
    Engine engine = context.state().engine();
    UseWindow window = studies.window(order.days(), context.readPolicy().now());
    ExcessStudies.Past past = studies.past(window, context.state(), context.state());
    Use use = readings.all(window);
    ShrinkOrder all =
        ShrinkOrder.of(window, use, readings.acted(window))
            .only(List.of(new Subject.OfPrincipal(whom.principal().kind(), whom.principal().key())))
            .without(untouchable(context))
            .without(it -> !order.others() && !isOwn(it, whom.principal()));
    List<TrimAnswer.TrimPoint> points = new ArrayList<>();
    Exposures exposures = new Exposures(engine, past, use, window, context);
    boolean defines = mayDefine(all, context);
    for (int i = 0; i < TIGHT.size(); i++) {
      double tight = TIGHT.get(i);
      int done = i;
      if (tight > 0 && !defines) {
        break;
      }
      Shrinker.Answer answer =
          Shrinker.of(
              engine,
              past.engine(),
              all.tight(tight),
              (step, of) -> {
                run.progress(done * 100L + step * 100L / Math.max(1, of), TIGHT.size() * 100L);
                return true;
              });
      points.add(point(tight, answer, exposures, whom.principal().key(), window, context));
    }
    run.answer(
        new TrimAnswer(
            context.state().revision(),
            whom.principal().key().value(),
            window.days(),
            exposures.before,
            exposures.floor,
            exposures.ofOne(engine, whom.principal().key()),
            defines,
            points));
  }

  /**
   * Only who may be told all of somebody's access may trim it.
   *
   * @throws Problem if some of it is hidden
   */
  static void requireWhole(AskablePrincipal whom) {
    if (whom.only() != null) {
      throw Problem.forbidden(
          "You see only part of their access, so you can't trim it. Ask the administrator of their"
              + " account.");
    }
  }

  private static Predicate<Thing> untouchable(RequestContext context) {
    Catalogue live = context.state().engine().catalogue();
    return it ->
        !context.readPolicy().mayRead(it, live)
            || !context.tellsAllOf(it)
            || context.cannotChange(it) != null;
  }

  /** Whether something gives to one principal alone, or makes them a member or a guest. */
  private static boolean isOwn(Thing thing, Principal whom) {
    return switch (thing) {
      case Assignment it ->
          it.subject() instanceof Subject.OfPrincipal(var _, PrincipalKey key)
              && key.equals(whom.key());
      case Guest it -> it.principal().equals(whom.key());
      case Group _ -> true;
      default -> false;
    };
  }

  /** Whether the owner may make sets and roles of the accounts whose assignments are narrowed. */
  private static boolean mayDefine(ShrinkOrder order, RequestContext context) {
    Catalogue catalogue = context.state().engine().catalogue();
    return catalogue.assignments().values().stream()
        .filter(it -> !order.untouched().test(it))
        .map(it -> ScopeCoverage.homeOf(it.subject(), catalogue))
        .distinct()
        .allMatch(it ->
            it != null && context.readPolicy().may(Supplied.RIGHTS_DEFINE, ResourceKey.of(it)));
  }

  /** Exposures of those about whom the owner may ask. */
  private static final class Exposures {
    private final UseWindow window;
    private final List<PrincipalKey> people;
    final long before;
    final long floor;

    Exposures(
        Engine engine, ExcessStudies.Past past, Use use, UseWindow window, RequestContext context) {
      this.window = window;
      ExcessStudy study = engine.excess(past.engine(), use, window);
      people = study.everybody().stream().filter(context.readPolicy()::maySeeAllOf).toList();
      List<Excess> all = study.of(people);
      before = all.stream().mapToLong(Excess::exposure).sum();
      floor = before - all.stream().mapToLong(Excess::excessExposure).sum();
    }

    long of(Engine engine) {
      return engine.excess(engine, Use.NONE, window).of(people).stream()
          .mapToLong(Excess::exposure)
          .sum();
    }

    long ofOne(Engine engine, PrincipalKey who) {
      return engine.excess(engine, Use.NONE, window).of(who).exposure();
    }
  }

  private static TrimAnswer.TrimPoint point(
      double tight,
      Shrinker.Answer answer,
      Exposures exposures,
      PrincipalKey whom,
      UseWindow window,
      RequestContext context) {
    Catalogue before = context.state().engine().catalogue();
    ChangeTeller teller = new ChangeTeller(before, context.naming());
    List<TrimAnswer.TrimStep> steps = new ArrayList<>();
    List<Change> changes = new ArrayList<>();
    for (ShrinkStep step : answer.steps()) {
      steps.add(
          new TrimAnswer.TrimStep(
              teller.sentences(step.changes()), ShrinkText.why(step.why(), window.days())));
      changes.addAll(step.changes());
    }
    Engine after = steps.isEmpty() ? context.state().engine() : Engine.of(answer.model());
    return new TrimAnswer.TrimPoint(
        tight,
        steps.isEmpty() ? exposures.before : exposures.of(after),
        exposures.ofOne(after, whom),
        after.catalogue().assignments().size() - before.assignments().size(),
        steps,
        ThingDocument.write(Draft.of(changes).changes()));
  }

  /** {@return the changes of a point} */
  static List<Change> changes(TrimAnswer.TrimPoint point) {
    return ThingDocument.changes(Objects.requireNonNull(point.changes()));
  }
}
