package mandala.document.cli;

import java.io.PrintWriter;
import java.util.concurrent.Callable;
import mandala.demo.Larkmoor;
import mandala.document.DocumentWriter;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Spec;

/** Prints the demo model as a document that can be imported. */
@Command(
    name = "demo",
    description = "Prints the demo model, the Larkmoor Museums Trust, as a document.",
    mixinStandardHelpOptions = true)
final class DemoCommand implements Callable<Integer> {

  @Spec private CommandSpec spec = CommandSpec.create();

  @Override
  public Integer call() {
    PrintWriter out = spec.commandLine().getOut();
    out.print(DocumentWriter.write(Larkmoor.model()));
    out.flush();
    return 0;
  }
}
