using System.Reflection;
using EvenThimble.Core.Jobs;
using EvenThimble.Equipment;
using EvenThimble.Rendering;
using EvenThimble.Storage;
using EvenThimble.Web;
using NetArchTest.Rules;

namespace EvenThimble.App.Tests;

/// <summary>The arrows between the projects, and what Core may not know.</summary>
public class ArchitectureTests
{
    private static readonly Assembly Core = typeof(Job).Assembly;

    public static TheoryData<string, string[]> MayNotUse() => new()
    {
        { "EvenThimble.Core", ["EvenThimble.Rendering", "EvenThimble.Storage", "EvenThimble.Equipment", "EvenThimble.Web", "SkiaSharp", "Dapper", "Microsoft.Data.Sqlite", "Microsoft.AspNetCore"] },
        { "EvenThimble.Rendering", ["EvenThimble.Storage", "EvenThimble.Equipment", "EvenThimble.Web", "Dapper", "Microsoft.AspNetCore"] },
        { "EvenThimble.Storage", ["EvenThimble.Rendering", "EvenThimble.Equipment", "EvenThimble.Web", "SkiaSharp", "Microsoft.AspNetCore"] },
        { "EvenThimble.Equipment", ["EvenThimble.Rendering", "EvenThimble.Storage", "EvenThimble.Web", "SkiaSharp", "Dapper", "Microsoft.AspNetCore"] },
    };

    [Theory]
    [MemberData(nameof(MayNotUse))]
    public void Arrows_between_projects_point_one_way(string project, string[] forbidden)
    {
        var assembly = new[] { Core, typeof(ThreadPainter).Assembly, typeof(Database).Assembly, typeof(EquipmentRoom).Assembly }.Single(a => a.GetName().Name == project);
        var result = Types.InAssembly(assembly).ShouldNot().HaveDependencyOnAny(forbidden).GetResult();
        result.IsSuccessful.ShouldBeTrue(string.Join(", ", result.FailingTypeNames ?? []));
    }

    [Fact]
    public void Core_stands_on_the_base_library_and_the_topology_suite_alone() =>
        Core.GetReferencedAssemblies().Select(a => a.Name!).ShouldAllBe(n => n.StartsWith("System.") || n == "NetTopologySuite");

    [Fact]
    public void Within_core_the_pipeline_points_forward()
    {
        void May_not(string room, params string[] later)
        {
            var result = Types.InAssembly(Core).That().ResideInNamespace($"EvenThimble.Core.{room}").ShouldNot().HaveDependencyOnAny([.. later.Select(l => $"EvenThimble.Core.{l}")]).GetResult();
            result.IsSuccessful.ShouldBeTrue($"{room}: {string.Join(", ", result.FailingTypeNames ?? [])}");
        }

        May_not("Geometry", "Stitches", "Threads", "Jobs", "Drawing", "Digitizing", "Fabrics", "Sequencing", "Machines", "Readiness", "Formats", "Scenario");
        May_not("Stitches", "Jobs", "Digitizing", "Sequencing", "Machines", "Readiness", "Formats", "Scenario");
        May_not("Digitizing", "Jobs", "Formats", "Threads", "Sequencing", "Machines", "Readiness", "Scenario");
        May_not("Fabrics", "Jobs", "Sequencing", "Machines", "Readiness", "Scenario");
        May_not("Jobs", "Sequencing", "Readiness", "Scenario");
        May_not("Sequencing", "Readiness", "Scenario");
    }

    [Fact]
    public void No_folder_is_named_after_a_pattern() =>
        new[] { Core, typeof(ThreadPainter).Assembly, typeof(Database).Assembly, typeof(EquipmentRoom).Assembly, typeof(EvenThimbleHost).Assembly }
            .SelectMany(a => a.GetTypes())
            .Select(t => t.Namespace ?? string.Empty)
            .ShouldAllBe(n => !n.EndsWith("Services") && !n.EndsWith("Helpers") && !n.EndsWith("Managers") && !n.EndsWith("Utils"));
}
