package mandala.bench;

import java.util.List;
import java.util.Set;
import java.util.concurrent.TimeUnit;
import mandala.core.engine.Engine;
import mandala.core.explain.Explanation;
import mandala.core.model.Permission.AccessClass;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.TypeKey;
import mandala.core.present.Access;
import mandala.core.question.Decision;
import mandala.core.question.Question;
import mandala.core.question.WhoQuestion;
import org.openjdk.jmh.annotations.Benchmark;
import org.openjdk.jmh.annotations.BenchmarkMode;
import org.openjdk.jmh.annotations.Level;
import org.openjdk.jmh.annotations.Mode;
import org.openjdk.jmh.annotations.OutputTimeUnit;
import org.openjdk.jmh.annotations.Param;
import org.openjdk.jmh.annotations.Scope;
import org.openjdk.jmh.annotations.Setup;
import org.openjdk.jmh.annotations.State;

/** What one question costs: each call another one, sampled, so that the tail is seen. */
@State(Scope.Benchmark)
@BenchmarkMode(Mode.SampleTime)
@OutputTimeUnit(TimeUnit.NANOSECONDS)
public class Questions {

  private static final int MANY = 1 << 16;

  /** How large the model is. */
  @Param("TOWN")
  public Size size = Size.TOWN;

  private Engine engine = Engine.of(mandala.core.model.AccessModel.empty());
  private World world = new World(mandala.core.model.AccessModel.empty(), engine);
  private List<Question> cold = List.of();
  private List<Question> warm = List.of();
  private int next;

  /** Builds the model and the questions, once. */
  @Setup(Level.Trial)
  public void build() {
    world = Worlds.of(size);
    engine = world.engine.after(List.of());
    cold = world.coldQuestions(MANY);
    warm = world.questions(MANY, 2_000);
    for (int i = 0; i < 40; i++) {
      for (int j = i; j < warm.size(); j += 40) {
        engine.decide(warm.get(j));
      }
    }
  }

  private int next() {
    next = next + 1 & MANY - 1;
    return next;
  }

  /** A decision about somebody who was not asked about lately: nothing is kept. */
  @Benchmark
  public Decision decisionCold() {
    return engine.decideAfresh(cold.get(next()));
  }

  /** A decision about one of two thousand people who are asked about all the time. */
  @Benchmark
  public Decision decisionCached() {
    return engine.decide(warm.get(next()));
  }

  /** How many rights somebody has. */
  @Benchmark
  public long wholeAccessCounted() {
    return engine.rights(cold.get(next()).session());
  }

  /** The whole access of somebody who was not asked about lately, as runs. */
  @Benchmark
  public Access wholeAccess() {
    return engine.accessAfresh(cold.get(next()).session());
  }

  /** Who has one permission on one resource. */
  @Benchmark
  public WhoQuestion.Answer whoCan() {
    Question question = cold.get(next());
    return engine.whoCan(
        WhoQuestion.of(question.permission(), question.resource(), question.at(), true));
  }

  /** Who may view anything of one resource: eight permissions at once. */
  @Benchmark
  public WhoQuestion.Answer whoCanView() {
    Question question = cold.get(next());
    TypeKey type = engine.catalogue().typeOf(question.resource());
    Set<PermissionKey> view =
        engine.catalogue().permissions().values().stream()
            .filter(it -> it.accessClass() == AccessClass.VIEW && it.on().contains(type))
            .map(it -> it.key())
            .collect(java.util.stream.Collectors.toSet());
    return engine.whoCan(
        new WhoQuestion(view, new WhoQuestion.Where.On(question.resource()), question.at(), true));
  }

  /** Why, and why not. */
  @Benchmark
  public Explanation routes() {
    return world.routes.explain(cold.get(next()));
  }
}
