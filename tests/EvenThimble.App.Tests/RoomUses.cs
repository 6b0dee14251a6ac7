using System.Collections.Concurrent;
using Microsoft.CodeAnalysis;
using Microsoft.CodeAnalysis.CSharp;
using Microsoft.CodeAnalysis.CSharp.Syntax;

namespace EvenThimble.App.Tests;

/// <summary>
/// Which rooms (folders) of a project use which, by every name in its sources as the compiler understands it: constants too, which leave no trace in what is compiled.
/// </summary>
internal sealed class RoomUses
{
    // What a project means to the compiler takes half a minute to find.
    private static readonly ConcurrentDictionary<string, Lazy<RoomUses>> Found = new();
    private readonly HashSet<(string Room, string Assembly)> _foreign = [];

    private RoomUses(IEnumerable<(string Room, SyntaxTree Tree)> sources)
    {
        var rooms = sources.ToDictionary(s => s.Tree, s => s.Room);
        var known = ((string)AppContext.GetData("TRUSTED_PLATFORM_ASSEMBLIES")!).Split(Path.PathSeparator).Concat(Directory.EnumerateFiles(AppContext.BaseDirectory, "*.dll"))
            .DistinctBy(Path.GetFileName).Where(IsManaged).Select(f => MetadataReference.CreateFromFile(f));
        var usual = CSharpSyntaxTree.ParseText("global using System; global using System.Collections.Generic; global using System.IO; global using System.Linq; global using System.Threading; global using System.Threading.Tasks;");
        var compiled = CSharpCompilation.Create("house", [.. rooms.Keys, usual], known, new(OutputKind.DynamicallyLinkedLibrary, allowUnsafe: true));
        foreach (var (tree, room) in rooms)
        {
            Rooms.Add(room);
            var meaning = compiled.GetSemanticModel(tree);
            foreach (var name in tree.GetRoot().DescendantNodes().OfType<SimpleNameSyntax>())
            {
                if (meaning.GetSymbolInfo(name).Symbol is not { } symbol) continue;
                if (symbol is not (INamedTypeSymbol or IMethodSymbol or IFieldSymbol or IPropertySymbol or IEventSymbol)) continue;
                if (symbol.DeclaringSyntaxReferences.Length == 0)
                {
                    if (symbol.ContainingAssembly is { } assembly) _foreign.Add((room, assembly.Name));
                    continue;
                }

                foreach (var declared in symbol.DeclaringSyntaxReferences)
                    if (rooms.TryGetValue(declared.SyntaxTree, out var other) && other != room)
                        Edges.TryAdd((room, other), $"{Path.GetFileName(tree.FilePath)} of {room} uses {symbol.Name} of {other}");
            }
        }
    }

    /// <summary>All rooms.</summary>
    public HashSet<string> Rooms { get; } = [];

    /// <summary>Which room uses which, each with one place where it does.</summary>
    public Dictionary<(string From, string To), string> Edges { get; } = [];

    /// <summary>Those of a project of this solution; a room is a folder of it.</summary>
    public static RoomUses Of(string project) => Found.GetOrAdd(project, _ => new(() => Look(project))).Value;

    private static RoomUses Look(string project)
    {
        var folder = Path.Combine(Top(), "src", project);
        return new(Directory.EnumerateFiles(folder, "*.cs", SearchOption.AllDirectories)
            .Select(f => (File: f, Parts: Path.GetRelativePath(folder, f).Split(Path.DirectorySeparatorChar)))
            .Where(f => f.Parts.Length > 1 && f.Parts[0] is not ("obj" or "bin"))
            .Select(f => (f.Parts[0], CSharpSyntaxTree.ParseText(File.ReadAllText(f.File), path: f.File))));
    }

    /// <summary>Those of sources given as text.</summary>
    public static RoomUses OfSources(params (string Room, string Source)[] sources) => new(sources.Select(s => (s.Room, CSharpSyntaxTree.ParseText(s.Source))));

    /// <summary>The rooms that use something of an assembly.</summary>
    public IReadOnlyList<string> UsersOf(string assembly) => [.. _foreign.Where(f => f.Assembly == assembly).Select(f => f.Room).Distinct().Order()];

    /// <summary>The places that close a circle of rooms; none when there is no circle.</summary>
    public IReadOnlyList<string> Circle()
    {
        // Rooms that use no other that is left can be taken away, again and again; what cannot stands in a circle or leads to one.
        var left = Rooms.ToHashSet();
        while (left.RemoveWhere(room => !Edges.Keys.Any(e => e.From == room && left.Contains(e.To))) > 0)
        {
        }

        return [.. Edges.Where(e => left.Contains(e.Key.From) && left.Contains(e.Key.To)).Select(e => e.Value)];
    }

    /// <summary>The folder of the project.</summary>
    public static string Top()
    {
        var folder = AppContext.BaseDirectory;
        while (!File.Exists(Path.Combine(folder, "EvenThimble.slnx"))) folder = Path.GetDirectoryName(folder) ?? throw new InvalidOperationException("The sources are not above the tests.");
        return folder;
    }

    private static bool IsManaged(string file)
    {
        try
        {
            System.Reflection.AssemblyName.GetAssemblyName(file);
            return true;
        }
        catch (BadImageFormatException)
        {
            return false;
        }
    }
}
