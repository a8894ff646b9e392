package mandala.document.cli;

import java.io.PrintWriter;
import java.nio.file.Path;
import java.time.Instant;
import java.util.function.Predicate;
import mandala.core.engine.Engine;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.Key;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.RoleKey;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** What every question is asked of: a model, an instant, and how the answer is printed. */
final class Asking {

  @Parameters(index = "0", paramLabel = "MODEL.json", description = "A mandala-model/1 document.")
  private Path model = Path.of("");

  @Option(names = "--at", description = "An instant like 2026-05-01T09:00:00Z (default: now).")
  private @Nullable String at;

  @Option(
      names = "--format",
      description = "How to print it: ${COMPLETION-CANDIDATES} (default: text).")
  private Table.Format format = Table.Format.text;

  Engine engine(PrintWriter err) throws ModelFile.Unusable {
    return Engine.of(ModelFile.read(model, err));
  }

  Instant at() throws ModelFile.Unusable {
    return Instants.of(at);
  }

  Table.Format format() {
    return format;
  }

  int print(Table table, PrintWriter out) {
    table.print(format, out);
    return 0;
  }

  /** {@return a key that must be known} */
  static <K extends Key> K known(K key, Predicate<K> is, String kind) throws ModelFile.Unusable {
    if (!is.test(key)) {
      throw new ModelFile.Unusable(
          "There is no " + kind + " '" + key + "' in the model.", ModelFile.UNUSABLE);
    }
    return key;
  }

  static ResourceKey place(Engine engine, String key) throws ModelFile.Unusable {
    return known(new ResourceKey(key), engine.catalogue()::has, "place");
  }

  static PermissionKey permission(Engine engine, String key) throws ModelFile.Unusable {
    return known(
        new PermissionKey(key), engine.catalogue().permissions()::containsKey, "permission");
  }

  static PrincipalKey principal(Engine engine, String key) throws ModelFile.Unusable {
    return known(new PrincipalKey(key), engine.catalogue().principals()::containsKey, "principal");
  }

  static AccountKey account(Engine engine, String key) throws ModelFile.Unusable {
    return known(new AccountKey(key), engine.catalogue().accounts()::containsKey, "account");
  }

  static RoleKey role(Engine engine, String key) throws ModelFile.Unusable {
    return known(new RoleKey(key), engine.catalogue().roles()::containsKey, "role");
  }
}
