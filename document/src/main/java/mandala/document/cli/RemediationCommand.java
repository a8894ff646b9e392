package mandala.document.cli;

import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.stream.Collectors;
import mandala.core.engine.Engine;
import mandala.core.model.Catalogue;
import mandala.core.question.Decision;
import mandala.core.question.Question;
import mandala.core.question.Verdict;
import mandala.core.remediation.Additions;
import mandala.core.remediation.Remediation;
import mandala.core.remediation.Removals;
import mandala.document.ChangeText;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Spec;

/** Tells what would give an access that is not there, or what must go for one to end. */
@Command(
    name = "remedies",
    description = "Prints what would give an access, or what must go for it to end.",
    mixinStandardHelpOptions = true)
final class RemediationCommand implements Callable<Integer> {

  @Mixin private Asking asking = new Asking();

  @Option(names = "--principal", required = true, description = "Who acts: a principal's key.")
  private String principal = "";

  @Option(names = "--permission", required = true, description = "A permission's key.")
  private String permission = "";

  @Option(names = "--resource", required = true, description = "A resource's key.")
  private String resource = "";

  @Option(names = "--mfa", description = "The session has a second factor.")
  private boolean mfa;

  @Option(names = "--acting-for", description = "For whom the principal acts.")
  private @Nullable String actingFor;

  @Spec private CommandSpec spec = CommandSpec.create();

  @Override
  public Integer call() throws ModelFile.Unusable {
    Engine engine = asking.engine(spec.commandLine().getErr());
    Question question =
        new Question(
            Asking.principal(engine, principal),
            Asking.permission(engine, permission),
            Asking.place(engine, resource),
            asking.at(),
            mfa,
            actingFor == null ? null : Asking.principal(engine, actingFor));
    Decision decision = engine.decide(question);
    if (decision.verdict() == Verdict.ERROR || decision.verdict() == Verdict.NOT_APPLICABLE) {
      throw new ModelFile.Unusable(
          "There is nothing to give or to end: " + decision.verdict().word() + ".",
          ModelFile.UNUSABLE);
    }
    boolean allowed = decision.allowed();
    List<Remediation> ways =
        allowed ? Removals.of(engine, question) : Additions.of(engine, question);
    Catalogue before = engine.catalogue();
    List<List<Object>> rows = new ArrayList<>();
    for (Remediation way : ways) {
      ChangeText text = new ChangeText(before, way.draft().appliedUnchecked(before));
      String said =
          way.draft().inOrder().stream()
              .flatMap(change -> text.sentences(change).stream())
              .collect(Collectors.joining("; "));
      rows.add(List.of(said, way.own(), way.others(), way.people()));
    }
    String said =
        decision.verdict().word()
            + (allowed ? "; what must go for it to end" : "; what would give it")
            + (Additions.bySecondFactor(engine, question)
                ? ": a second factor is enough"
                : ": " + ways.size() + (ways.size() == 1 ? " way" : " ways"));
    List<String> head = List.of("changes", "rights of theirs", "rights of others", "others");
    return asking.print(new Table(said, head, rows), spec.commandLine().getOut());
  }
}
