package mandala.core.excess;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.concurrent.CopyOnWriteArrayList;
import mandala.core.engine.Engine;
import mandala.core.model.About;
import mandala.core.model.Assignment;
import mandala.core.model.Clause;
import mandala.core.model.Expectation;
import mandala.core.model.Gives;
import mandala.core.model.Principal;
import mandala.core.model.ResourceType;
import mandala.core.model.Subject;
import mandala.core.model.Term;
import mandala.core.model.Window;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.ExpectationKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.TypeKey;
import mandala.core.question.Impact;
import mandala.core.rule.Sketch;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;

/** What is needed, what is young and what is excess, case by case (section 12). */
class ExcessSpec {

  private static final Instant NOON = Instant.parse("2026-05-10T12:00:00Z");

  /** Editing a coin implies viewing it, for which one enters the room that it lies in. */
  private final Sketch model =
      new Sketch()
          .account("trust")
          .with(new ResourceType(new TypeKey("house"), About.NONE, null))
          .with(new ResourceType(new TypeKey("room"), About.NONE, null))
          .with(new ResourceType(new TypeKey("object"), About.NONE, null))
          .place("hall", "room", "trust", "")
          .place("coin", "object", "trust", "hall")
          .place("ring", "object", "trust", "hall")
          .permission("enter", "room", List.of(), List.of())
          .permission("view", "object", List.of(), List.of("enter"))
          .permission("edit", "object", List.of("view"), List.of())
          .person("ada", "trust")
          .person("bas", "trust");

  private final List<UseRecord> records = new ArrayList<>();
  private int days = 10;

  private void gives(String permission, String to, Window window) {
    model.with(
        new Assignment(
            new AssignmentKey(permission + "-" + to),
            About.NONE,
            Sketch.person(to),
            new Gives.OfPermission(new PermissionKey(permission)),
            Assignment.Effect.ALLOW,
            List.of(Clause.of(new Term.Everything())),
            List.of(),
            window,
            Assignment.Mode.STANDING,
            false));
  }

  /** All three rights on the objects and the room: five. */
  private void givesAll(String to) {
    gives("enter", to, Window.ALWAYS);
    gives("edit", to, Window.ALWAYS);
  }

  private void used(String who, String permission, String place, String day, @Nullable String as) {
    records.add(
        new UseRecord(
            new PrincipalKey(who),
            new PermissionKey(permission),
            new ResourceKey(place),
            LocalDate.parse(day),
            1,
            as == null ? null : new PrincipalKey(as)));
  }

  private ExcessStudy study() {
    Engine engine = Engine.of(model.catalogue().model());
    UseWindow window = new UseWindow(NOON, days);
    return engine.excess(engine, Use.of(records, window, engine.catalogue()).use(), window);
  }

  private Excess of(String who) {
    return study().of(new PrincipalKey(who));
  }

  private List<String> excessOf(String who) {
    return study().rights(new PrincipalKey(who)).stream()
        .map(it -> it.permission() + " " + it.resource())
        .toList();
  }

  @Test
  void whatNobodyUsesIsExcess() {
    givesAll("ada");
    assertThat(of("ada")).isEqualTo(new Excess(new PrincipalKey("ada"), 5, 0, 0, 0, 5, 5, 5));
    assertThat(excessOf("ada"))
        .containsExactly("edit coin", "edit ring", "enter hall", "view coin", "view ring");
  }

  @Test
  void whatIsUsedIsNeededWithWhatItImpliesAndItsGates() {
    givesAll("ada");
    used("ada", "edit", "coin", "2026-05-10", null);
    assertThat(excessOf("ada")).containsExactly("edit ring", "view ring");
    assertThat(of("ada").needed()).isEqualTo(3);
  }

  @Test
  void whatIsUsedButNotHeldIsNotNeeded() {
    gives("enter", "ada", Window.ALWAYS);
    used("ada", "edit", "coin", "2026-05-10", null);
    assertThat(excessOf("ada")).containsExactly("enter hall");
  }

  @Test
  void useCountsFromTheFirstDayOfTheWindowToTheLast() {
    givesAll("ada");
    used("ada", "view", "coin", "2026-04-30", null);
    used("ada", "view", "ring", "2026-05-11", null);
    assertThat(of("ada").needed()).isZero();
    used("ada", "view", "coin", "2026-05-01", null);
    assertThat(of("ada").needed()).isEqualTo(2);
    days = 9;
    assertThat(of("ada").needed()).isZero();
  }

  @Test
  void useForAnotherIsAUseOfTheirAccess() {
    givesAll("ada");
    givesAll("bas");
    used("ada", "view", "coin", "2026-05-10", "bas");
    assertThat(of("ada").needed()).isZero();
    assertThat(of("bas").needed()).isEqualTo(2);
  }

  @Test
  void whatAnExpectationDemandsIsNeeded() {
    givesAll("ada");
    givesAll("bas");
    model.with(expectation(Expectation.Form.CAN));
    assertThat(excessOf("ada")).containsExactly("edit coin", "edit ring", "view ring");
    assertThat(of("bas").needed()).isZero();
  }

  @Test
  void whatAnExpectationForbidsDemandsNothing() {
    givesAll("ada");
    model.with(expectation(Expectation.Form.CANNOT));
    assertThat(of("ada").needed()).isZero();
  }

  private static Expectation expectation(Expectation.Form form) {
    return new Expectation(
        new ExpectationKey("ada-sees-the-coin"),
        About.NONE,
        null,
        form,
        List.of(Sketch.person("ada")),
        List.of(new PermissionKey("view")),
        List.of(Sketch.only("coin")),
        null,
        null);
  }

  @Test
  void whatWasNotHeldWhenTheWindowBeganIsYoungWithWhatComesWithIt() {
    gives("enter", "ada", Window.ALWAYS);
    gives("edit", "ada", new Window(NOON.minusSeconds(10 * 86_400 - 1), null));
    assertThat(of("ada").young()).isEqualTo(5);
    assertThat(of("ada").excess()).isZero();
    days = 9;
    assertThat(of("ada").young()).isZero();
  }

  @Test
  void whatIsYoungAndUsedIsNeeded() {
    gives("enter", "ada", Window.ALWAYS);
    gives("edit", "ada", new Window(NOON.minusSeconds(60), null));
    used("ada", "view", "coin", "2026-05-10", null);
    assertThat(of("ada")).isEqualTo(new Excess(new PrincipalKey("ada"), 5, 2, 3, 0, 0, 5, 0));
  }

  @Test
  void whoIsNotActiveHasNoExcess() {
    model.person("cor", "trust", Principal.Status.SUSPENDED, Window.ALWAYS);
    givesAll("cor");
    assertThat(of("cor")).isEqualTo(new Excess(new PrincipalKey("cor"), 0, 0, 0, 0, 0, 0, 0));
    assertThat(of("cor").excessShare()).isZero();
  }

  @Test
  void theShareIsThatOfExposure() {
    givesAll("ada");
    used("ada", "enter", "hall", "2026-05-10", null);
    assertThat(of("ada").excessShare()).isEqualTo(0.8);
  }

  @Test
  void whoIsUnknownIsRefused() {
    assertThatThrownBy(() -> of("nobody"))
        .isInstanceOf(IllegalArgumentException.class)
        .hasMessageContaining("There is no principal 'nobody'");
  }

  @Test
  void aWatchBreaksOff() {
    givesAll("ada");
    List<Excess> found = new CopyOnWriteArrayList<>();
    List<PrincipalKey> many = Collections.nCopies(10_000, new PrincipalKey("ada"));
    assertThat(study().each(many, (_, _) -> false, found::add)).isFalse();
    assertThat(found).hasSizeLessThan(10_000).isNotEmpty();
    found.clear();
    assertThat(study().each(many, Impact.Watch.TO_THE_END, found::add)).isTrue();
    assertThat(found).hasSize(10_000);
  }

  @Test
  void recordsOfOneRightAddUp() {
    used("ada", "view", "coin", "2026-05-08", null);
    used("ada", "view", "coin", "2026-05-03", null);
    used("ada", "view", "coin", "2026-05-08", null);
    Use use = Use.of(records, new UseWindow(NOON, days), model.catalogue()).use();
    assertThat(use.size()).isEqualTo(1);
    assertThat(use.of(new PrincipalKey("ada")))
        .containsExactly(
            new Use.Used(
                new PermissionKey("view"),
                new ResourceKey("coin"),
                LocalDate.parse("2026-05-08"),
                2));
    assertThat(use.of(new PrincipalKey("bas"))).isEmpty();
  }

  @Test
  void strangersWithinTheWindowAreListed() {
    used("nobody", "view", "coin", "2026-05-08", null);
    used("ada", "fly", "coin", "2026-05-08", null);
    used("ada", "view", "moon", "2026-05-08", null);
    used("ada", "view", "coin", "2026-05-08", "nobody");
    used("nobody", "view", "coin", "2025-05-08", null);
    used("anonymous", "view", "coin", "2026-05-08", null);
    Use.Told told = Use.of(records, new UseWindow(NOON, days), model.catalogue());
    assertThat(told.strangers()).isEqualTo(records.subList(0, 4));
    assertThat(told.use().size()).isEqualTo(1);
  }

  @Test
  void aWindowHasFromOneDayToTenYears() {
    assertThat(new UseWindow(NOON, 1).first()).isEqualTo(new UseWindow(NOON, 1).last());
    for (int wrong : List.of(0, -1, UseWindow.MOST + 1)) {
      assertThatThrownBy(() -> new UseWindow(NOON, wrong))
          .isInstanceOf(IllegalArgumentException.class)
          .hasMessageContaining("write a number from 1 to 3660");
    }
  }

  @Test
  void publicAccessIsOfAnonymousToo() {
    model.with(
        new Assignment(
            new AssignmentKey("open"),
            About.NONE,
            Subject.Public.ANYONE,
            new Gives.OfPermission(new PermissionKey("enter")),
            Assignment.Effect.ALLOW,
            List.of(Clause.of(new Term.InAccount(new AccountKey("trust")))),
            List.of(),
            Window.ALWAYS,
            Assignment.Mode.STANDING,
            false));
    assertThat(of("anonymous").excess()).isEqualTo(1);
    assertThat(study().everybody())
        .containsExactly(new PrincipalKey("ada"), new PrincipalKey("bas"), PrincipalKey.ANONYMOUS);
  }
}
