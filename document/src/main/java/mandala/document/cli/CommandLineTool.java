package mandala.document.cli;

import java.io.PrintWriter;
import java.nio.charset.StandardCharsets;
import picocli.CommandLine;
import picocli.CommandLine.Command;

/**
 * {@code mandala check | evaluate | explain | access | who-can | remedies | differ | escalation |
 * test-access | excess | shrink | tidy | demo}.
 */
@Command(
    name = "mandala",
    description = "Checks models, and answers and explains questions about access.",
    mixinStandardHelpOptions = true,
    version = "mandala 0.1.0",
    subcommands = {
      CheckCommand.class,
      EvaluateCommand.class,
      ExplainCommand.class,
      AccessCommand.class,
      WhoCanCommand.class,
      RemediationCommand.class,
      DifferCommand.class,
      EscalationCommand.class,
      TestAccessCommand.class,
      ExcessCommand.class,
      ShrinkCommand.class,
      TidyCommand.class,
      ReconcileCommand.class,
      DemoCommand.class
    })
public final class CommandLineTool {

  private CommandLineTool() {}

  /** Runs a command and ends the program with its exit code. */
  public static void main(String[] args) {
    PrintWriter out = new PrintWriter(System.out, false, StandardCharsets.UTF_8);
    PrintWriter err = new PrintWriter(System.err, true, StandardCharsets.UTF_8);
    int exit = run(out, err, args);
    out.flush();
    System.exit(exit);
  }

  /** {@return the exit code}: 0 done, 1 faults or differences found, 2 the call is wrong */
  public static int run(PrintWriter out, PrintWriter err, String... args) {
    CommandLine line = new CommandLine(new CommandLineTool());
    line.setOut(out);
    line.setErr(err);
    line.setExecutionExceptionHandler((e, command, _) -> {
      if (e instanceof ModelFile.Unusable unusable) {
        command.getOut().flush();
        command.getErr().println(unusable.getMessage());
        return unusable.exit;
      }
      if (e instanceof IllegalArgumentException wrong) { // a key or a side that cannot be one
        command.getErr().println(wrong.getMessage() + ".");
        return ModelFile.UNUSABLE;
      }
      throw e;
    });
    return args.length == 0 ? usage(line) : line.execute(args);
  }

  private static int usage(CommandLine line) {
    line.usage(line.getErr());
    return ModelFile.UNUSABLE;
  }
}
