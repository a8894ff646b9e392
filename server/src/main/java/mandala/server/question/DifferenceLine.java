package mandala.server.question;

import java.util.ArrayList;
import java.util.List;
import mandala.core.model.Kind;
import mandala.core.model.Permission;
import mandala.core.model.key.ResourceKey;
import mandala.core.present.Access;
import mandala.core.question.Difference;
import mandala.document.ChangeText;
import mandala.document.Naming;
import org.jspecify.annotations.Nullable;

/**
 * What differs of one permission in one account, with names.
 *
 * @param sample the first place where it differs
 */
public record DifferenceLine(
    String account,
    String accountName,
    String permission,
    String permissionName,
    String accessClass,
    String risk,
    long gained,
    long lost,
    @Nullable String sample) {

  /**
   * {@return a difference of two accesses with names}, by account and permission; accounts and
   * permissions that may not be named are spoken of without
   */
  public static List<DifferenceLine> of(
      Difference difference, Access before, Access after, Naming naming) {
    ChangeText text = new ChangeText(before.catalogue(), after.catalogue(), naming);
    List<DifferenceLine> lines = new ArrayList<>();
    for (Difference.Line line : difference.lines()) {
      Permission permission = after.catalogue().permissions().get(line.permission());
      if (permission == null) { // it is no more, and what it allowed is lost
        permission = before.catalogue().permissions().get(line.permission());
      }
      if (permission != null) {
        lines.add(
            new DifferenceLine(
                naming.tells(Kind.ACCOUNTS, line.account().value()) ? line.account().value() : "",
                text.name(Kind.ACCOUNTS, line.account().value()),
                line.permission().value(),
                text.name(Kind.PERMISSIONS, line.permission().value()),
                FigureView.word(permission.accessClass()),
                FigureView.word(permission.risk()),
                line.gained(),
                line.lost(),
                before
                    .sampleOfDifference(after, line.permission(), line.account())
                    .filter(naming::tells)
                    .map(ResourceKey::value)
                    .orElse(null)));
      }
    }
    return lines;
  }
}
