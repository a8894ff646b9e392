package mandala.server;

import static com.tngtech.archunit.core.domain.JavaClass.Predicates.resideInAPackage;
import static com.tngtech.archunit.core.domain.JavaClass.Predicates.resideOutsideOfPackage;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.core.importer.ImportOption.DoNotIncludeTests;
import com.tngtech.archunit.junit.AnalyzeClasses;
import com.tngtech.archunit.junit.ArchTest;
import com.tngtech.archunit.lang.ArchRule;

/**
 * Features form no cycles, the platform knows none of them, and nobody outside of core sees more of
 * it than its faces.
 */
@AnalyzeClasses(packages = "mandala", importOptions = DoNotIncludeTests.class)
class ArchitectureTest {

  @ArchTest
  static final ArchRule featuresFormNoCycles =
      slices().matching("mandala.server.(*)..").should().beFreeOfCycles();

  @ArchTest
  static final ArchRule onlyTheFacesOfCoreAreSeen =
      noClasses()
          .that()
          .resideOutsideOfPackage("mandala.core..")
          .should()
          .dependOnClassesThat()
          .resideInAnyPackage(
              "mandala.core.compiled..",
              "mandala.core.evaluate..",
              "mandala.core.whocan..",
              "mandala.core.compare..");

  @ArchTest
  static final ArchRule thePlatformKnowsNoFeature =
      noClasses()
          .that()
          .resideInAPackage("mandala.server.platform..")
          .should()
          .dependOnClassesThat(
              resideInAPackage("mandala.server..")
                  .and(resideOutsideOfPackage("mandala.server.platform..")));
}
