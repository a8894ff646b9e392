package mandala.server.question;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import mandala.core.change.Change;
import mandala.core.engine.Engine;
import mandala.core.model.About;
import mandala.core.model.Activation;
import mandala.core.model.Assignment;
import mandala.core.model.Catalogue;
import mandala.core.model.Kind;
import mandala.core.model.Window;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.PrincipalKey;
import mandala.document.Naming;
import mandala.document.ThingText;
import mandala.server.platform.Problem;
import org.jspecify.annotations.Nullable;

/** Just-in-time assignments that a question takes to be switched on. */
final class SwitchedOn {

  private static final Duration A_WHILE = Duration.ofHours(1);

  private SwitchedOn() {}

  /**
   * What somebody could switch on then.
   *
   * @param said as a sentence
   * @param on whether it is switched on already, in the model
   */
  record SwitchableView(String key, String said, boolean on) {}

  /** {@return what a principal could switch on at an instant}, by key */
  static List<SwitchableView> of(Engine engine, PrincipalKey who, Instant at, Naming naming) {
    Catalogue catalogue = engine.catalogue();
    ThingText text = new ThingText(catalogue, naming);
    List<SwitchableView> found = new ArrayList<>();
    for (Assignment it : catalogue.assignments().values()) {
      if (isFor(it, engine, who, at) && naming.tells(Kind.ASSIGNMENTS, it.key().value())) {
        found.add(new SwitchableView(it.key().value(), text.of(it), isOn(it, catalogue, who, at)));
      }
    }
    return found;
  }

  private static boolean isFor(Assignment it, Engine engine, PrincipalKey who, Instant at) {
    return it.mode() == Assignment.Mode.JUST_IN_TIME
        && it.effect() == Assignment.Effect.ALLOW
        && it.window().holdsAt(at)
        && engine.hasSubject(who, it.subject(), at);
  }

  private static boolean isOn(Assignment it, Catalogue catalogue, PrincipalKey who, Instant at) {
    return catalogue.links().activations(catalogue.principals().number(who)).stream()
        .anyMatch(each -> each.assignment().equals(it.key()) && each.window().holdsAt(at));
  }

  /**
   * {@return an engine for the model in which a principal has switched these on}
   *
   * @param on keys of assignments, or null for none
   * @throws Problem if one of them is nothing that the principal could switch on then
   */
  static Engine with(Engine engine, PrincipalKey who, Instant at, @Nullable List<String> on) {
    List<Change> changes = new ArrayList<>();
    for (String key : on == null ? List.<String>of() : on) {
      Assignment it =
          key.isBlank() ? null : engine.catalogue().assignments().get(new AssignmentKey(key));
      if (it == null || !isFor(it, engine, who, at)) {
        throw Problem.badRequest(
            "This assignment can't be activated",
            "'"
                + key
                + "' is no just-in-time assignment that '"
                + who
                + "' could activate at that time. Leave it out, or choose from 'switchable'.");
      }
      if (!isOn(it, engine.catalogue(), who, at)) {
        changes.add(
            new Change.Added(
                new Activation(About.NONE, who, it.key(), new Window(at, at.plus(A_WHILE)))));
      }
    }
    return changes.isEmpty() ? engine : engine.after(changes.stream().distinct().toList());
  }
}
