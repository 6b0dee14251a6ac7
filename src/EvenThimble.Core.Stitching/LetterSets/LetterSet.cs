using System.Collections.Concurrent;
using System.Collections.Immutable;
using EvenThimble.Core.Lettering;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using EvenThimble.Core.Threads;

namespace EvenThimble.Core.LetterSets;

/// <summary>What a file of a set was taken as.</summary>
/// <param name="File">The file.</param>
/// <param name="Letter">The letter that it became; null: none.</param>
/// <param name="Because">Why it was taken so.</param>
/// <param name="Trouble">What is wrong about it, in a sentence; null: nothing.</param>
public sealed record SetFileTaken(SetFile File, SetLetter? Letter, string Because, string? Trouble);

/// <summary>The letters of a set that came in one size.</summary>
/// <param name="Letters">By their characters.</param>
/// <param name="CapitalMm">Height of its capitals, mm.</param>
/// <param name="SmallMm">Height of its small letters without ascender, mm; what is usual where it has none.</param>
/// <param name="Thread">The thread of most of its letters.</param>
public sealed record LetterSetSize(ImmutableSortedDictionary<string, SetLetter> Letters, double CapitalMm, double SmallMm, SewingThread Thread);

/// <summary>An alphabet that came as stitch files, understood: which file is which letter, where each stands on its baseline, and what is odd about any.</summary>
public sealed class LetterSet
{
    private readonly ConcurrentDictionary<LetterSetSize, (LetterSetFont Font, LetterFace Face)> _fonts = new(ReferenceEqualityComparer.Instance);

    private LetterSet(LetterSetSource source, ImmutableArray<LetterSetSize> sizes, ImmutableArray<SetFileTaken> files) => (Source, Sizes, Files) = (source, sizes, files);

    /// <summary>What it is made of.</summary>
    public LetterSetSource Source { get; }

    /// <summary>What it is called.</summary>
    public string Name => Source.Name;

    /// <summary>Its sizes, the smallest first; one at least.</summary>
    public ImmutableArray<LetterSetSize> Sizes { get; }

    /// <summary>What its files were taken as, in their order.</summary>
    public ImmutableArray<SetFileTaken> Files { get; }

    /// <summary>All characters that it has in any size, in their order.</summary>
    public IReadOnlyList<string> Characters => [.. Sizes.SelectMany(s => s.Letters.Keys).Distinct().Order(StringComparer.Ordinal)];

    /// <summary>Understands a set.</summary>
    /// <exception cref="EditRefusedException">Nothing in it is a letter.</exception>
    public static LetterSet Of(LetterSetSource source)
    {
        var names = LetterFileName.Of([.. source.Files.Select(f => f.Path)], source.Unsaid);
        var found = source.Files.Zip(names, (file, name) => new Candidate(file, name, source.MendingOf(file.Path))).ToList();
        var sizes = ImmutableArray.CreateBuilder<LetterSetSize>();
        var taken = new Dictionary<Candidate, SetFileTaken>();
        foreach (var group in Grouped([.. found.Where(c => c.IsLetter)]))
        {
            var firsts = new Dictionary<string, Candidate>(StringComparer.Ordinal);
            foreach (var candidate in group)
            {
                if (firsts.TryAdd(candidate.Character!, candidate)) continue;
                taken[candidate] = candidate.Taken(null, $"{firsts[candidate.Character!].File.Path} is “{candidate.Character}” already. Say which other letter this is, or leave one of them out.");
            }

            sizes.Add(SizeOf(firsts, taken));
        }

        if (sizes.Count == 0) throw new EditRefusedException(source.Files.Length == 0 ? "There are no files in this set." : "No file of this set could be read as a letter. Name each after its letter, such as A.evth, a_lower.evth or amp.evth.");
        return new(source, [.. sizes.OrderBy(s => s.CapitalMm)], [.. found.Select(c => taken.TryGetValue(c, out var its) ? its : c.Taken(null, c.WhyNot))]);
    }

    /// <summary>The size whose capitals come nearest to a height, by how many times it is larger or smaller.</summary>
    public LetterSetSize Nearest(double capitalMm) => Sizes.MinBy(s => Math.Abs(Math.Log(capitalMm / s.CapitalMm)))!;

    /// <summary>One of its sizes as a font, and as what texts are laid with.</summary>
    public (LetterSetFont Font, LetterFace Face) FontOf(LetterSetSize size) => _fonts.GetOrAdd(size, s => new LetterSetFont(this, s) is var font ? (font, new(Name, font)) : default);

    /// <summary>A file with what is known of it before its stitches are measured.</summary>
    private sealed record Candidate(SetFile File, LetterReading Name, LetterMending Mending)
    {
        public LetterInk? Ink { get; } = File.Design is { } design ? LetterInk.Of(design.Stitches) : null;

        public string? Character => Mending.Character ?? Name.Character;

        public bool IsLetter => Character is not null && Ink is not null && !Mending.LeftOut;

        public string Because => Mending.Character is not null ? "as you said" : Name.Because;

        public string? WhyNot =>
            File.Trouble is { } trouble ? trouble
            : Mending.LeftOut ? null
            : Ink is null ? "It has no stitches, so there is nothing to sew."
            : Character is null ? "Its name tells no letter. Say which it is, or leave it out."
            : null;

        public SetFileTaken Taken(SetLetter? letter, string? trouble) => new(File, letter, Mending.LeftOut ? "left out" : Because, trouble);
    }

    /// <summary>Files by the size that they name; where they name none and lie in folders with the same letters, by folder.</summary>
    private static IEnumerable<List<Candidate>> Grouped(List<Candidate> letters)
    {
        var byFolder = letters.GroupBy(c => Folder(c.File.Path)).ToList();
        var same = byFolder.Count > 1 && letters.GroupBy(c => (c.Character, c.Name.SizeMm)).Any(g => g.Select(c => Folder(c.File.Path)).Distinct().Count() > 1);
        return letters.GroupBy(c => (c.Name.SizeMm, Folder: same ? Folder(c.File.Path) : string.Empty)).OrderBy(g => g.Key.SizeMm).ThenBy(g => g.Key.Folder, StringComparer.Ordinal).Select(g => g.ToList());

        static string Folder(string path) => path.LastIndexOf('/') is var at and > 0 ? path[..at] : string.Empty;
    }

    private static LetterSetSize SizeOf(Dictionary<string, Candidate> byCharacter, Dictionary<Candidate, SetFileTaken> taken)
    {
        var letters = byCharacter.OrderBy(l => l.Key, StringComparer.Ordinal).Select(l => l.Value).ToList();
        var (finder, baselines) = BaselineFinder.Of([.. letters.Select(l => (l.Character!, l.Ink!))]);
        var usual = letters.SelectMany(l => l.File.Design!.Parts).GroupBy(p => p.Thread).MaxBy(g => g.Select(p => p.Count).Sum())!.Key;
        var mostThreads = letters.GroupBy(l => l.File.Design!.Threads.Length).MaxBy(g => g.Count())!.Key;
        var found = letters.Zip(baselines, (candidate, baseline) =>
        {
            // A set of letters in two threads is meant so; a letter that has none of the others' is not.
            var (design, usualThread) = (candidate.File.Design!, candidate.Mending.UsualThread);
            var odd = mostThreads == 1 && letters.Count > 2 && design.Threads is [var only] && only != usual;
            return new SetLetter(candidate.Character!, candidate.File.Path, odd && usualThread ? design with { Parts = [.. design.Parts.Select(p => p with { Thread = usual })] } : design, candidate.Ink!, baseline.BaselineY)
            {
                OffMm = baseline.OffMm,
                OddThread = odd && !usualThread,
            };
        }).ToList();
        var size = ImmutableSortedDictionary.CreateBuilder<string, SetLetter>(StringComparer.Ordinal);
        foreach (var (candidate, letter) in letters.Zip(finder.HasLine ? found : JoinFinder.Aligned(found, finder.SmallMm)))
        {
            var mending = candidate.Mending;
            size[letter.Character] = letter with { BaselineY = letter.BaselineY + mending.RaisedMm, LeftMm = mending.LeftMm, RightMm = mending.RightMm, OffMm = mending.RaisedMm == 0 ? letter.OffMm : 0 };
            taken[candidate] = candidate.Taken(size[letter.Character], null);
        }

        return new(size.ToImmutable(), finder.CapitalMm, finder.SmallMm, usual);
    }
}
