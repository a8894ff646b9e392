package mandala.core;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.classes;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.core.importer.ImportOption.DoNotIncludeTests;
import com.tngtech.archunit.junit.AnalyzeClasses;
import com.tngtech.archunit.junit.ArchTest;
import com.tngtech.archunit.lang.ArchRule;

/** The core depends on nothing but Java itself, and its packages form no cycles. */
@AnalyzeClasses(packages = "mandala.core", importOptions = DoNotIncludeTests.class)
class ArchitectureTest {

  @ArchTest
  static final ArchRule dependsOnNothing =
      classes()
          .that()
          .resideInAPackage("mandala.core..")
          .should()
          .onlyDependOnClassesThat()
          .resideInAnyPackage("mandala.core..", "java..", "org.jspecify.annotations..");

  @ArchTest
  static final ArchRule doesNoInputOrOutput =
      classes()
          .that()
          .resideInAPackage("mandala.core..")
          .should()
          .onlyDependOnClassesThat()
          .resideOutsideOfPackages("java.io..", "java.nio..", "java.net..", "java.sql..");

  @ArchTest
  static final ArchRule packagesFormNoCycles =
      slices().matching("mandala.core.(**)").should().beFreeOfCycles();
}
