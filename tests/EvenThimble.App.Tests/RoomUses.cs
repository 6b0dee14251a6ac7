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
    private static readonly ConcurrentDictionary<string, Lazy<RoomUses>> Found = new();

    private RoomUses(IReadOnlyList<(string Room, SyntaxTree Tree)> sources)
    {
        var rooms = sources.ToDictionary(s => s.Tree, s => s.Room);
        var known = ((string)AppContext.GetData("TRUSTED_PLATFORM_ASSEMBLIES")!).Split(Path.PathSeparator).Concat(Directory.EnumerateFiles(AppContext.BaseDirectory, "*.dll"))
            .DistinctBy(Path.GetFileName).Where(IsManaged).Select(f => MetadataReference.CreateFromFile(f));
        var usual = CSharpSyntaxTree.ParseText("global using System; global using System.Collections.Generic; global using System.IO; global using System.Linq; global using System.Threading; global using System.Threading.Tasks;");
        var compiled = CSharpCompilation.Create("house", [.. rooms.Keys, usual], known, new(OutputKind.DynamicallyLinkedLibrary, allowUnsafe: true));
        var declaring = sources.SelectMany(s => Declared(s.Tree).Select(name => (name, s.Room))).Distinct().ToLookup(d => d.name, d => d.Room);
        foreach (var (tree, room) in rooms)
        {
            Rooms.Add(room);
            var meaning = compiled.GetSemanticModel(tree);
            foreach (var name in tree.GetRoot().DescendantNodes().OfType<SimpleNameSyntax>())
            {
                // Asking the compiler is slow: only where a name could tell of a use that is not yet known.
                if (declaring[name.Identifier.ValueText].All(other => other == room || Edges.ContainsKey((room, other)))) continue;
                if (meaning.GetSymbolInfo(name).Symbol is not { } symbol) continue;
                if (symbol is not (INamedTypeSymbol or IMethodSymbol or IFieldSymbol or IPropertySymbol or IEventSymbol)) continue;
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
        return new([.. Directory.EnumerateFiles(folder, "*.cs", SearchOption.AllDirectories)
            .Select(f => (File: f, Parts: Path.GetRelativePath(folder, f).Split(Path.DirectorySeparatorChar)))
            .Where(f => f.Parts.Length > 1 && f.Parts[0] is not ("obj" or "bin"))
            .Select(f => (f.Parts[0], CSharpSyntaxTree.ParseText(File.ReadAllText(f.File), path: f.File)))]);
    }

    /// <summary>Those of sources given as text.</summary>
    public static RoomUses OfSources(params (string Room, string Source)[] sources) => new([.. sources.Select(s => (s.Room, CSharpSyntaxTree.ParseText(s.Source)))]);

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

    /// <summary>The names of the types and members that a source declares; of an attribute also as it is used.</summary>
    private static IEnumerable<string> Declared(SyntaxTree tree) =>
        tree.GetRoot().DescendantNodes()
            .Select(n => n switch
            {
                BaseTypeDeclarationSyntax type => type.Identifier,
                DelegateDeclarationSyntax shape => shape.Identifier,
                MethodDeclarationSyntax method => method.Identifier,
                PropertyDeclarationSyntax property => property.Identifier,
                EventDeclarationSyntax happening => happening.Identifier,
                EnumMemberDeclarationSyntax value => value.Identifier,
                VariableDeclaratorSyntax { Parent.Parent: BaseFieldDeclarationSyntax } field => field.Identifier,
                ParameterSyntax { Parent.Parent: RecordDeclarationSyntax } property => property.Identifier,
                _ => default,
            })
            .Select(i => i.ValueText)
            .SelectMany(name => name.EndsWith("Attribute", StringComparison.Ordinal) ? [name, name[..^"Attribute".Length]] : new[] { name });

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
