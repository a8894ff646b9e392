package mandala.document.cli;

import java.io.PrintWriter;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import mandala.core.engine.Engine;
import mandala.core.excess.Excess;
import mandala.core.excess.ExcessStudy;
import mandala.core.excess.UseWindow;
import mandala.core.model.key.PrincipalKey;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.ObjectNode;

/** Tells what people need of their access and what is excess (section 12). */
@Command(
    name = "excess",
    description = {
      "Prints, for everybody or one principal, how many rights they have, need and have in excess.",
      "Strangers and what is wrong with a file go to standard error."
    },
    mixinStandardHelpOptions = true)
final class ExcessCommand implements Callable<Integer> {

  @Mixin private Asking asking = new Asking();

  @Parameters(
      index = "1",
      paramLabel = "USE.jsonl",
      description = "A mandala-use/1 file: one JSON object a line.")
  private Path file = Path.of("");

  @Mixin private UseFile use = new UseFile();

  @Option(names = "--principal", description = "Who (default: everybody).")
  private @Nullable String principal;

  @Option(names = "--rights", description = "Print each right that is excess, too.")
  private boolean rights;

  @Spec private CommandSpec spec = CommandSpec.create();

  private static final List<String> HEAD =
      List.of("principal", "rights", "needed", "young", "excess", "exposure", "excessExposure");

  @Override
  public Integer call() throws ModelFile.Unusable {
    UseWindow window = use.window(asking.at());
    PrintWriter err = spec.commandLine().getErr();
    UseFile.Read read = use.read(file, asking, err);
    Engine engine = read.engine();
    List<PrincipalKey> whom = whom(engine);
    ExcessStudy study = engine.excess(engine, UseFile.told(read, window, err), window);
    List<PrincipalKey> people = whom.isEmpty() ? study.everybody() : whom;
    List<Excess> found = study.of(people);
    PrintWriter out = spec.commandLine().getOut();
    if (asking.format() == Table.Format.json) {
      found.forEach(it -> out.println(line(it, study)));
      out.flush();
      return 0;
    }
    return asking.print(rights ? rightsOf(study, people) : figures(found), out);
  }

  private List<PrincipalKey> whom(Engine engine) throws ModelFile.Unusable {
    if (principal == null) {
      return List.of();
    }
    return List.of(
        principal.equals(PrincipalKey.ANONYMOUS.value())
            ? PrincipalKey.ANONYMOUS
            : Asking.principal(engine, principal));
  }

  private static Table figures(List<Excess> found) {
    List<List<Object>> rows = new ArrayList<>();
    long all = 0;
    long excess = 0;
    for (Excess it : found) {
      rows.add(
          List.of(
              it.principal().value(),
              it.rights(),
              it.needed(),
              it.young(),
              it.excess(),
              it.exposure(),
              it.excessExposure()));
      all += it.exposure();
      excess += it.excessExposure();
    }
    return new Table("exposure " + all + ", of which " + excess + " is excess", HEAD, rows);
  }

  private static Table rightsOf(ExcessStudy study, List<PrincipalKey> people) {
    List<List<Object>> rows = new ArrayList<>();
    for (PrincipalKey who : people) {
      for (Excess.Right right : study.rights(who)) {
        rows.add(List.of(who.value(), right.permission().value(), right.resource().value()));
      }
    }
    return new Table(
        rows.size() + " rights are excess", List.of("principal", "permission", "resource"), rows);
  }

  /** One principal as a line of JSON. */
  private String line(Excess it, ExcessStudy study) {
    ObjectNode json = JsonNodeFactory.instance.objectNode();
    json.put("principal", it.principal().value());
    json.put("rights", it.rights());
    json.put("needed", it.needed());
    json.put("young", it.young());
    json.put("excess", it.excess());
    json.put("exposure", it.exposure());
    json.put("excessExposure", it.excessExposure());
    if (rights) {
      ArrayNode list = json.putArray("excessRights");
      for (Excess.Right right : study.rights(it.principal())) {
        list.addObject()
            .put("permission", right.permission().value())
            .put("resource", right.resource().value());
      }
    }
    return JsonMapper.builder().build().writeValueAsString(json);
  }
}
