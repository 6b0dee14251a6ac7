using System.Reflection;
using EvenThimble.Core.Files.Jobs;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Equipment;
using EvenThimble.Rendering;
using EvenThimble.Scenario;
using EvenThimble.Storage;
using EvenThimble.Web;
using NetArchTest.Rules;

namespace EvenThimble.App.Tests;

/// <summary>The arrows between projects and between their rooms, and what Core may not know.</summary>
public class ArchitectureTests
{
    private static readonly Assembly[] Core = [typeof(Point).Assembly, typeof(Job).Assembly, typeof(JobDocument).Assembly];
    private static readonly Assembly[] All = [.. Core, typeof(Sampler).Assembly, typeof(ThreadPainter).Assembly, typeof(Database).Assembly, typeof(EquipmentRoom).Assembly, typeof(EvenThimbleHost).Assembly];

    public static TheoryData<string> CoreProjects() => [.. Core.Select(a => a.GetName().Name!)];

    public static TheoryData<string, string[]> MayNotUse() => new()
    {
        { "EvenThimble.Rendering", ["EvenThimble.Storage", "EvenThimble.Equipment", "EvenThimble.Web", "Dapper", "Microsoft.AspNetCore"] },
        { "EvenThimble.Storage", ["EvenThimble.Rendering", "EvenThimble.Equipment", "EvenThimble.Web", "SkiaSharp", "Microsoft.AspNetCore"] },
        { "EvenThimble.Equipment", ["EvenThimble.Rendering", "EvenThimble.Storage", "EvenThimble.Web", "SkiaSharp", "Dapper", "Microsoft.AspNetCore"] },
    };

    [Theory]
    [MemberData(nameof(MayNotUse))]
    public void Arrows_between_projects_point_one_way(string project, string[] forbidden)
    {
        var result = Types.InAssembly(All.Single(a => a.GetName().Name == project)).ShouldNot().HaveDependencyOnAny(forbidden).GetResult();
        result.IsSuccessful.ShouldBeTrue(string.Join(", ", result.FailingTypeNames ?? []));
    }

    [Fact]
    public void Core_stands_on_the_base_library_the_topology_suite_and_for_drawings_a_reader_of_style_sheets() =>
        Core.SelectMany(a => a.GetReferencedAssemblies()).Select(a => a.Name!).ShouldAllBe(n => n.StartsWith("System.") || n == "NetTopologySuite" || n == "AngleSharp" || n == "AngleSharp.Css" || n == "ExcelDataReader" || n.StartsWith("EvenThimble.Core."));

    [Theory]
    [MemberData(nameof(CoreProjects))]
    public void The_rooms_of_a_project_have_no_circles(string project)
    {
        var uses = RoomUses.Of(project);
        uses.Rooms.Count.ShouldBeGreaterThan(2, "the sources were found");
        uses.Circle().ShouldBeEmpty();
    }

    [Fact]
    public void The_measure_of_circles_sees_one_through_a_constant()
    {
        var uses = RoomUses.OfSources(
            ("Bench", "namespace House.Bench; public static class Vice { public const int Jaws = House.Shelf.Board.Planks; }"),
            ("Shelf", "namespace House.Shelf; public static class Board { public const int Planks = 3; public static object Held() => new House.Bench.Hook(); }"),
            ("Bench", "namespace House.Bench; public class Hook { }"));
        uses.Circle().ShouldNotBeEmpty();
    }

    [Fact]
    public void The_measure_of_circles_sees_what_rooms_use() =>
        RoomUses.Of("EvenThimble.Core.Stitching").Edges.Keys.ShouldContain(("Digitizing", "Shapes"));

    [Fact]
    public void The_topology_suite_stays_behind_the_room_of_shapes() =>
        Types.InAssembly(typeof(Point).Assembly).That().HaveDependencyOn("NetTopologySuite").GetTypes().Select(t => t.Namespace!).Distinct().ShouldBe(["EvenThimble.Core.Shapes"]);

    [Fact]
    public void No_public_member_shows_the_topology_suite() =>
        Core.SelectMany(a => a.GetExportedTypes())
            .SelectMany(t => t.GetMembers(BindingFlags.Public | BindingFlags.Instance | BindingFlags.Static | BindingFlags.DeclaredOnly))
            .SelectMany(m => m switch
            {
                MethodInfo method => method.GetParameters().Select(p => p.ParameterType).Append(method.ReturnType),
                ConstructorInfo made => made.GetParameters().Select(p => p.ParameterType),
                FieldInfo field => [field.FieldType],
                PropertyInfo property => [property.PropertyType],
                _ => [],
            })
            .SelectMany(t => t.IsGenericType ? t.GetGenericArguments().Append(t) : [t])
            .ShouldAllBe(t => t.Assembly.GetName().Name != "NetTopologySuite");

    [Fact]
    public void No_record_writes_itself_out_without_end() =>
        All.SelectMany(a => a.GetTypes())
            .Where(t => t.GetMethod("PrintMembers", BindingFlags.Instance | BindingFlags.NonPublic | BindingFlags.DeclaredOnly) is not null)
            .SelectMany(t => t.GetProperties(BindingFlags.Instance | BindingFlags.Public | BindingFlags.DeclaredOnly).Where(p => p.PropertyType == t && !Attribute.IsDefined(p.GetMethod!, typeof(System.Runtime.CompilerServices.CompilerGeneratedAttribute))))
            .Select(p => $"{p.DeclaringType!.Name}.{p.Name} makes another of its kind, which is written out with it: a method would not be")
            .ShouldBeEmpty();

    [Fact]
    public void What_outlives_a_request_is_never_lazy() =>
        All.SelectMany(a => a.GetTypes())
            .Where(t => t.Namespace?.StartsWith("EvenThimble.Core.Digitizing", StringComparison.Ordinal) != true)
            .SelectMany(t => t.GetFields(BindingFlags.Instance | BindingFlags.Static | BindingFlags.Public | BindingFlags.NonPublic | BindingFlags.DeclaredOnly))
            .Where(f => Kinds(f.FieldType).Any(t => t.IsGenericType && t.GetGenericTypeDefinition() == typeof(Lazy<>)))
            .Select(f => $"{f.DeclaringType!.Name}.{f.Name} keeps for good that somebody stopped waiting for it; something Made does not")
            .ShouldBeEmpty();

    [Fact]
    public void No_folder_is_named_after_a_pattern() =>
        All.SelectMany(a => a.GetTypes())
            .Select(t => t.Namespace ?? string.Empty)
            .ShouldAllBe(n => !n.EndsWith("Services") && !n.EndsWith("Helpers") && !n.EndsWith("Managers") && !n.EndsWith("Utils"));

    private static IEnumerable<Type> Kinds(Type type) => type.GetGenericArguments().SelectMany(Kinds).Append(type);
}
