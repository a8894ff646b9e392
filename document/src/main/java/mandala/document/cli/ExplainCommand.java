package mandala.document.cli;

import java.io.PrintWriter;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.stream.Collectors;
import mandala.core.engine.Engine;
import mandala.core.explain.Explanation;
import mandala.core.explain.Route;
import mandala.core.explain.Routes;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.question.Decision;
import mandala.core.question.Question;
import mandala.core.question.Verdict;
import mandala.document.RouteText;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

/** Tells why somebody may do something, or why not. */
@Command(
    name = "explain",
    description = {
      "Prints the verdict, the routes that give it now, and those that would but do not, with reasons."
    },
    mixinStandardHelpOptions = true)
final class ExplainCommand implements Callable<Integer> {

  @Parameters(paramLabel = "MODEL.json", description = "A mandala-model/1 document.")
  private Path model = Path.of("");

  @Option(names = "--principal", required = true, description = "Who acts: a principal's key.")
  private String principal = "";

  @Option(names = "--permission", required = true, description = "A permission's key.")
  private String permission = "";

  @Option(
      names = "--resource",
      required = true,
      description = "A resource's key, or account:K, unit:U, group:G.")
  private String resource = "";

  @Option(names = "--at", description = "An instant like 2026-05-01T09:00:00Z (default: now).")
  private @Nullable String at;

  @Option(names = "--mfa", description = "The session has a second factor.")
  private boolean mfa;

  @Option(names = "--acting-for", description = "For whom the principal acts.")
  private @Nullable String actingFor;

  @Spec private CommandSpec spec = CommandSpec.create();

  @Override
  public Integer call() throws ModelFile.Unusable {
    PrintWriter out = spec.commandLine().getOut();
    Engine engine = Engine.of(ModelFile.read(model, spec.commandLine().getErr()));
    Question question =
        new Question(
            new PrincipalKey(principal),
            new PermissionKey(permission),
            new ResourceKey(resource),
            Instants.of(at),
            mfa,
            actingFor == null ? null : new PrincipalKey(actingFor));
    Decision decision = engine.decide(question);
    if (decision.verdict() == Verdict.ERROR) {
      throw new ModelFile.Unusable(
          "The question cannot be asked: " + decision.reason() + ".", ModelFile.UNUSABLE);
    }
    RouteText text = new RouteText(engine.catalogue());
    out.println(
        "%s: %s %s on %s at %s%s%s"
            .formatted(
                decision.verdict().word(),
                principal,
                permission,
                resource,
                question.at(),
                mfa ? ", with a second factor" : "",
                actingFor == null ? "" : ", acting for " + actingFor));
    if (decision.verdict() != Verdict.NOT_APPLICABLE) {
      Explanation explanation = Routes.of(engine).explain(question);
      print("Routes that give it now", explanation.live(), text, out);
      print("Routes that would give it, but do not now", explanation.near(), text, out);
      if (explanation.more() > 0) {
        out.println("  and " + explanation.more() + " more that are given to others only");
      }
    }
    out.flush();
    return 0;
  }

  private static void print(String title, List<Route> routes, RouteText text, PrintWriter out) {
    out.println();
    out.println(title + (routes.isEmpty() ? ": none" : ":"));
    for (Route route : routes) {
      out.println(
          "  "
              + text.steps(route).stream()
                  .map(step -> step.name() + " (" + step.remark() + ")")
                  .collect(Collectors.joining(" → ")));
      if (route.otherPaths() > 0) {
        out.println("      and " + route.otherPaths() + " other ways to the same subject");
      }
      if (route.delegation() != null) {
        out.println("      through the delegation " + route.delegation());
      }
      route.obstacles().forEach(it -> out.println("      but " + text.obstacle(it)));
    }
  }
}
