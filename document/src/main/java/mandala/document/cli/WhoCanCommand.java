package mandala.document.cli;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.concurrent.Callable;
import mandala.core.engine.Engine;
import mandala.core.model.Principal;
import mandala.core.model.key.CollectionKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.question.WhoQuestion;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.ArgGroup;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Spec;

/** Tells who can do something somewhere. */
@Command(
    name = "who-can",
    description = "Prints who can: for themselves, for others, and who is denied or lacks a gate.",
    mixinStandardHelpOptions = true)
final class WhoCanCommand implements Callable<Integer> {

  @Mixin private Asking asking = new Asking();

  @Option(
      names = "--permission",
      required = true,
      split = ",",
      description = "Any of these permissions, by key.")
  private List<String> permissions = List.of();

  /** Where: one of these. */
  static final class Where {
    @Option(names = "--on", description = "One place alone.")
    @Nullable String on;

    @Option(names = "--below", description = "A place and all below it.")
    @Nullable String below;

    @Option(names = "--collection", description = "The members of a collection.")
    @Nullable String collection;
  }

  @ArgGroup(multiplicity = "1")
  private Where where = new Where();

  @Option(names = "--mfa", description = "Sessions have a second factor.")
  private boolean mfa;

  @Spec private CommandSpec spec = CommandSpec.create();

  @Override
  public Integer call() throws ModelFile.Unusable {
    Engine engine = asking.engine(spec.commandLine().getErr());
    Set<PermissionKey> wanted = new LinkedHashSet<>();
    for (String each : permissions) {
      wanted.add(Asking.permission(engine, each));
    }
    WhoQuestion.Answer answer =
        engine.whoCan(new WhoQuestion(wanted, where(engine), asking.at(), mfa));
    List<List<Object>> rows = new ArrayList<>();
    if (answer.anonymous()) {
      rows.add(List.of("can", "anonymous", "anybody, without signing in", "", answer.pairs()));
    }
    answer.allowed().forEach(it -> rows.add(row("can", it.principal(), it.rights(), engine)));
    answer
        .delegates()
        .forEach(it -> rows.add(row("can, acting for " + it.actedFor(), it.actor(), 0, engine)));
    answer.blocked().forEach(it -> rows.add(row("lacks a gate", it, 0, engine)));
    answer.denied().forEach(it -> rows.add(row("is denied", it, 0, engine)));
    String said =
        answer.allowed().size() + " can, of " + answer.pairs() + " pairs of permission and place";
    List<String> head = List.of("how", "who", "name", "account", "pairs");
    return asking.print(new Table(said, head, rows), spec.commandLine().getOut());
  }

  private WhoQuestion.Where where(Engine engine) throws ModelFile.Unusable {
    if (where.on != null) {
      return new WhoQuestion.Where.On(Asking.place(engine, where.on));
    }
    if (where.below != null) {
      return new WhoQuestion.Where.Below(Asking.place(engine, where.below));
    }
    return new WhoQuestion.Where.Within(
        Asking.known(
            new CollectionKey(String.valueOf(where.collection)),
            engine.catalogue().collections()::containsKey,
            "collection"));
  }

  private static List<Object> row(String how, PrincipalKey key, long rights, Engine engine) {
    Principal it = engine.catalogue().principals().get(key);
    return List.of(
        how,
        key.value(),
        it == null ? key.value() : it.about().nameOr(key),
        it == null ? "" : it.account().value(),
        rights);
  }
}
