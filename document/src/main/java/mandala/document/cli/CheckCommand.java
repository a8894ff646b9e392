package mandala.document.cli;

import java.io.PrintWriter;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import mandala.core.model.Kind;
import mandala.document.DocumentReader;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

/** Prints all faults of a model, or what is in it. */
@Command(
    name = "check",
    description = "Prints all faults of a model and exits 1, or a one-line summary.",
    mixinStandardHelpOptions = true)
final class CheckCommand implements Callable<Integer> {

  @Parameters(paramLabel = "MODEL.json", description = "A mandala-model/1 document.")
  private Path model = Path.of("");

  @Spec private CommandSpec spec = CommandSpec.create();

  @Override
  public Integer call() throws ModelFile.Unusable {
    DocumentReader.Result result = ModelFile.parse(model);
    PrintWriter out = spec.commandLine().getOut();
    result.faults().forEach(out::println);
    if (!result.faults().isEmpty()) {
      out.println(model + ": " + ModelFile.counted(result.faults().size()));
      out.flush();
      return ModelFile.FOUND;
    }
    List<String> counts = new ArrayList<>();
    for (Kind kind : Kind.values()) {
      int count = result.model().things(kind).size();
      if (count > 0) {
        counts.add(count + " " + kind.field());
      }
    }
    out.println(
        model
            + ": no faults; "
            + (counts.isEmpty() ? "nothing listed" : String.join(", ", counts)));
    out.flush();
    return 0;
  }
}
