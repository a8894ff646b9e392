package mandala.document.cli;

import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import mandala.core.analysis.Compared;
import mandala.core.analysis.HypotheticalPrincipal;
import mandala.core.analysis.Peers;
import mandala.core.engine.Engine;
import mandala.core.model.Permission;
import mandala.core.model.Principal;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PatternKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.RoleKey;
import mandala.core.present.Access;
import mandala.core.question.Difference;
import mandala.core.question.Session;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Spec;

/** Tells how two accesses differ. */
@Command(
    name = "differ",
    description = {
      "Prints which rights only one of two has: two people, a person and a role, a pattern or what"
          + " colleagues have in common, or one at two instants or in two models.",
      "A side is a principal's key, role:KEY, pattern:KEY, or colleagues:KEY."
    },
    mixinStandardHelpOptions = true)
final class DifferCommand implements Callable<Integer> {

  @Mixin private Asking asking = new Asking();

  @Option(names = "--one", required = true, description = "One side.")
  private String one = "";

  @Option(names = "--other", required = true, description = "The other side.")
  private String other = "";

  @Option(names = "--other-at", description = "When the other side is looked at.")
  private @Nullable String otherAt;

  @Option(names = "--other-model", description = "The document of the other side.")
  private @Nullable Path otherModel;

  @Option(names = "--in", description = "The account on which a role is held.")
  private @Nullable String in;

  @Spec private CommandSpec spec = CommandSpec.create();

  @Override
  public Integer call() throws ModelFile.Unusable {
    Engine engine = asking.engine(spec.commandLine().getErr());
    Engine second =
        otherModel == null
            ? engine
            : Engine.of(ModelFile.read(otherModel, spec.commandLine().getErr()));
    Instant then = otherAt == null ? asking.at() : Instants.of(otherAt);
    Access first = access(engine, Compared.parse(one), Compared.parse(other), asking.at());
    Access last = access(second, Compared.parse(other), Compared.parse(one), then);
    Difference difference = first.difference(last);
    List<List<Object>> rows = new ArrayList<>();
    for (Difference.Line line : difference.lines()) {
      Permission it = last.catalogue().permissions().get(line.permission());
      rows.add(
          List.of(
              line.account().value(),
              line.permission().value(),
              it == null ? "" : it.about().nameOr(it.key()),
              line.lost(),
              line.gained()));
    }
    String said =
        difference.lost() + " rights only " + one + "; " + difference.gained() + " only " + other;
    List<String> head = List.of("account", "permission", "name", "only one", "only other");
    return asking.print(new Table(said, head, rows), spec.commandLine().getOut());
  }

  private Access access(Engine engine, Compared side, Compared rival, Instant at)
      throws ModelFile.Unusable {
    return switch (side) {
      case Compared.Person(PrincipalKey key) -> {
        Asking.principal(engine, key.value());
        yield engine.access(new Session(key, at, true, null));
      }
      case Compared.OfRole(RoleKey key) ->
          HypotheticalPrincipal.ofRole(
              engine, Asking.role(engine, key.value()), account(engine, rival), at);
      case Compared.OfPattern(PatternKey key) ->
          HypotheticalPrincipal.ofPattern(
              engine,
              Asking.known(key, engine.catalogue().patterns()::containsKey, "pattern"),
              person(engine, rival),
              at);
      case Compared.OfColleagues(PrincipalKey key) -> {
        Asking.principal(engine, key.value());
        Peers found = Peers.of(engine, person(engine, new Compared.Person(key)), at);
        if (found.people().isEmpty()) {
          throw new ModelFile.Unusable(
              "'" + key + "' has too few colleagues of the same pattern, title or unit.",
              ModelFile.UNUSABLE);
        }
        yield found.core(engine, at);
      }
    };
  }

  private AccountKey account(Engine engine, Compared rival) throws ModelFile.Unusable {
    return in == null ? person(engine, rival).account() : Asking.account(engine, in);
  }

  private static Principal person(Engine engine, Compared side) throws ModelFile.Unusable {
    Principal found =
        side instanceof Compared.Person(PrincipalKey key)
            ? engine.catalogue().principals().get(key)
            : null;
    if (found == null) {
      throw new ModelFile.Unusable(
          "Compare with a principal of the model, or name the account by --in.",
          ModelFile.UNUSABLE);
    }
    return found;
  }
}
