package mandala.document.cli;

import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.stream.Collectors;
import mandala.core.change.Draft;
import mandala.core.engine.Engine;
import mandala.core.escalation.EscalationPath;
import mandala.core.escalation.EscalationSearch;
import mandala.core.escalation.Escalators;
import mandala.core.model.Catalogue;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.question.Impact;
import mandala.core.question.Question;
import mandala.document.ChangeText;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Spec;

/** Tells how somebody, or anybody, could get an access by rights over the model. */
@Command(
    name = "escalation",
    description = "Prints the shortest paths of changes by which somebody could get an access.",
    mixinStandardHelpOptions = true)
final class EscalationCommand implements Callable<Integer> {

  @Mixin private Asking asking = new Asking();

  @Option(names = "--principal", description = "Who (default: everybody).")
  private @Nullable String principal;

  @Option(names = "--permission", required = true, description = "A permission's key.")
  private String permission = "";

  @Option(names = "--resource", required = true, description = "A resource's key.")
  private String resource = "";

  @Option(names = "--changes", description = "At most so many changes, 1 to 6 (default: 2).")
  private int changes = 2;

  @Spec private CommandSpec spec = CommandSpec.create();

  @Override
  public Integer call() throws ModelFile.Unusable {
    if (changes < 1 || changes > 6) {
      throw new ModelFile.Unusable(
          "--changes: " + changes + " is not from 1 to 6.", ModelFile.UNUSABLE);
    }
    Engine engine = asking.engine(spec.commandLine().getErr());
    PermissionKey what = Asking.permission(engine, permission);
    ResourceKey where = Asking.place(engine, resource);
    List<List<Object>> rows = new ArrayList<>();
    String said =
        principal == null ? everybody(engine, what, where, rows) : one(engine, what, where, rows);
    List<String> head = List.of("who", "path", "step", "what", "by", "approval");
    return asking.print(new Table(said, head, rows), spec.commandLine().getOut());
  }

  private String one(Engine engine, PermissionKey what, ResourceKey where, List<List<Object>> rows)
      throws ModelFile.Unusable {
    PrincipalKey who = Asking.principal(engine, String.valueOf(principal));
    EscalationSearch.Answer answer =
        EscalationSearch.of(
            engine,
            new Question(who, what, where, asking.at(), true, null),
            EscalationSearch.Limits.ONE.withChanges(changes));
    for (int i = 0; i < answer.paths().size(); i++) {
      rows(answer.paths().get(i), i + 1, engine.catalogue(), rows);
    }
    return answer.held()
        ? "held already"
        : answer.paths().size()
            + " shortest paths of at most "
            + changes
            + " changes"
            + (answer.whole() ? "" : "; not every path was tried");
  }

  private String everybody(
      Engine engine, PermissionKey what, ResourceKey where, List<List<Object>> rows)
      throws ModelFile.Unusable {
    List<Escalators.Escalator> found =
        new Escalators(engine, asking.at())
            .toward(
                what,
                where,
                EscalationSearch.Limits.EACH.withChanges(changes),
                Impact.Watch.TO_THE_END);
    found.forEach(it -> rows(it.answer().paths().getFirst(), 1, engine.catalogue(), rows));
    return found.size() + " who cannot now could, with at most " + changes + " changes";
  }

  private static void rows(
      EscalationPath path, int number, Catalogue before, List<List<Object>> rows) {
    Catalogue now = before;
    int steps = 0;
    for (EscalationPath.Step step : path.steps()) {
      steps++;
      switch (step) {
        case EscalationPath.Step.Makes it -> {
          Catalogue was = now;
          now = Draft.of(List.of(it.change())).appliedUnchecked(was);
          rows.add(
              List.of(
                  path.who().value(),
                  number,
                  steps,
                  String.join("; ", new ChangeText(was, now).sentences(it.change())),
                  it.uses().stream()
                      .map(use -> use.permission() + " on " + use.anyOf().getFirst())
                      .distinct()
                      .collect(Collectors.joining("; ")),
                  it.reasons().isEmpty() ? "none" : "by any of " + it.approvers().size()));
        }
        case EscalationPath.Step.SignsIn _ ->
            rows.add(row(path, number, steps, "signs in with the second factor"));
        case EscalationPath.Step.ActsFor(PrincipalKey whom) ->
            rows.add(row(path, number, steps, "acts for " + whom));
      }
    }
  }

  private static List<Object> row(EscalationPath path, int number, int step, String said) {
    return List.of(path.who().value(), number, step, said, "", "");
  }
}
