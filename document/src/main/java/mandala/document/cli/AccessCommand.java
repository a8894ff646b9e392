package mandala.document.cli;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import mandala.core.engine.Engine;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.present.Access;
import mandala.core.question.Extent;
import mandala.core.question.Region;
import mandala.core.question.Session;
import mandala.core.question.Verdict;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Spec;

/** Tells all that somebody can do, region by region. */
@Command(
    name = "access",
    description = "Prints what a principal can do: where, what, and on how many places.",
    mixinStandardHelpOptions = true)
final class AccessCommand implements Callable<Integer> {

  @Mixin private Asking asking = new Asking();

  @Option(names = "--principal", required = true, description = "Who acts: a principal's key.")
  private String principal = "";

  @Option(names = "--in", description = "An account, with all below it (default: everywhere).")
  private @Nullable String in;

  @Option(names = "--doors", description = "Also the rights across bridges, in other accounts.")
  private boolean doors;

  @Option(names = "--mfa", description = "The session has a second factor.")
  private boolean mfa;

  @Option(names = "--acting-for", description = "For whom the principal acts.")
  private @Nullable String actingFor;

  @Spec private CommandSpec spec = CommandSpec.create();

  @Override
  public Integer call() throws ModelFile.Unusable {
    Engine engine = asking.engine(spec.commandLine().getErr());
    PrincipalKey who = Asking.principal(engine, principal);
    PrincipalKey whom = actingFor == null ? null : Asking.principal(engine, actingFor);
    if (who.equals(whom)) {
      throw new ModelFile.Unusable(
          "A person can't act for themselves. Leave --acting-for out.", ModelFile.UNUSABLE);
    }
    AccountKey account = in == null ? null : Asking.account(engine, in);
    Access access = engine.access(new Session(who, asking.at(), mfa, whom));
    Extent extent = new Extent(account, doors, null);
    List<List<Object>> rows = new ArrayList<>();
    if (access.refusal().isEmpty()) {
      access.regions(extent).forEach(it -> rows(it, engine, rows));
    }
    String said =
        access
            .refusal()
            .map(verdict -> principal + " can do nothing: " + verdict.word())
            .orElseGet(() -> principal + " has " + access.rights(extent) + " rights");
    List<String> head = List.of("account", "place", "name", "permission", "verdict", "on", "of");
    return asking.print(new Table(said, head, rows), spec.commandLine().getOut());
  }

  private static void rows(Region region, Engine engine, List<List<Object>> rows) {
    for (Region.Cell cell : region.cells()) {
      Map<Verdict, Integer> counts = new LinkedHashMap<>();
      counts.put(Verdict.ALLOWED, cell.allowed());
      counts.put(Verdict.BLOCKED, cell.blocked());
      counts.put(Verdict.DENIED, cell.denied());
      counts.forEach((verdict, many) -> {
        if (many > 0 && region.below().isEmpty()) { // what is told below is not told twice
          rows.add(
              List.of(
                  region.account().value(),
                  region.top().value(),
                  name(region, engine),
                  cell.permission().value(),
                  verdict.word(),
                  many,
                  cell.applicable()));
        }
      });
    }
    region.below().forEach(it -> rows(it, engine, rows));
  }

  private static String name(Region region, Engine engine) {
    String name = engine.catalogue().nameOf(region.top());
    int others = region.members().size() - 1;
    if (region.shape() == Region.Shape.ITSELF) {
      return name + " itself";
    }
    return others > 0 ? name + " and " + others + " alike" : name;
  }
}
