using System.Globalization;
using EvenThimble.Core.Files.Stitch;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;

namespace EvenThimble.Equipment;

/// <summary>A file as a machine sees it: listed, or not and why.</summary>
/// <param name="FileName">Its name.</param>
/// <param name="Bytes">Its size.</param>
/// <param name="Why">Why the machine does not list it, in a sentence; null when it does.</param>
/// <param name="Shows">What the machine shows of a file that it lists.</param>
public sealed record MachineListing(string FileName, long Bytes, string? Why, string Shows)
{
    /// <summary>Whether the machine lists it.</summary>
    public bool Listed => Why is null;
}

/// <summary>A stand-in sewing machine: a folder and a rule book. It looks at the files it is given and lists those that it can sew.</summary>
/// <param name="make">What make it is, with the hoops that there are for it now.</param>
/// <param name="memory">Its folder.</param>
public sealed class SewingMachine(Func<SewingMachineModel> make, FileDrawer memory)
{
    private const int MostRemembered = 20_000;
    private readonly RecentlyMade<(string Name, string Version, int Hoops), MachineListing> _looked = new(MostRemembered, _ => 1);

    /// <summary>What make it is.</summary>
    public SewingMachineModel Model => make();

    /// <summary>What is in its memory.</summary>
    public FileDrawer Memory => memory;

    /// <summary>Its own list, with the reason for every file in its memory that it does not list.</summary>
    public IReadOnlyList<MachineListing> List() => ListOf(memory);

    /// <summary>What it would list of the files in another drawer, such as a stick put into it.</summary>
    public IReadOnlyList<MachineListing> ListOf(FileDrawer drawer) => ListOf(drawer, drawer.Files());

    /// <summary>What it would list of chosen files in a drawer. What it has looked at once it looks at again only when it has changed.</summary>
    public IReadOnlyList<MachineListing> ListOf(FileDrawer drawer, IEnumerable<DrawerFile> files) =>
        [.. files.Select(f => _looked.Get((f.Name, f.Version, HoopsNow), () => Look(f.Name, f.Bytes, () => drawer.Read(f.Name, StitchFormats.LargestFile))))];

    /// <summary>Looks at one file as the machine does when it makes its list.</summary>
    public MachineListing Look(string fileName, long size, Func<byte[]> read)
    {
        var model = Model;
        MachineListing Not(string why) => new(fileName, size, why, string.Empty);
        if (model.Takes.All(k => !fileName.EndsWith(k.Extension, StringComparison.OrdinalIgnoreCase)))
            return Not($"{model.Name} only looks at files that end in {string.Join(" or ", model.Takes.Select(k => k.Extension).Distinct())}.");
        var name = Path.GetFileNameWithoutExtension(fileName);
        if (model.NameLength is { } most && (name.Length > most || !Titles.IsPlain(name)))
            return Not($"Its file name has to be at most {most} plain letters and digits.");
        if (size > StitchFormats.LargestFile) return Not("It is larger than any stitch file.");
        StitchFileKind kind;
        StitchFile file;
        try
        {
            (kind, file) = StitchFormats.Read(read(), fileName);
        }
        catch (Exception e) when (e is RefusedException or EquipmentException)
        {
            return Not(e.Message);
        }

        if (!model.Takes.Contains(kind)) return Not($"It is a {kind.Name}; {model.Name} reads {string.Join(" and ", model.Takes.Select(k => k.Name))}.");
        return WhyNot(model, file) is { } why ? Not(why) : new(fileName, size, null, Shown(model, file));
    }

    private int HoopsNow => Model.Hoops.Aggregate(0, HashCode.Combine);

    /// <summary>All that keeps a machine from listing a sound file, or null.</summary>
    private static string? WhyNot(SewingMachineModel model, StitchFile file)
    {
        var reasons = new[] { SizeRefused(model, file), StitchesRefused(model, file), ChangesRefused(model, file), TitleRefused(model, file) }.OfType<string>().ToList();
        return reasons.Count == 0 ? null : string.Join(' ', reasons);
    }

    private static string? SizeRefused(SewingMachineModel model, StitchFile file)
    {
        if (FieldFor(model, file) is not null) return null;
        var b = file.Bounds;
        var largest = model.Hoops.MaxBy(h => h.Width * h.Height)!;
        return model.SmallestHoopFor(b.Width, b.Height) switch
        {
            { Turned: false } => Text($"It is {b.Width:0.#} × {b.Height:0.#} mm, which would fit, but it does not lie in the middle of the field."),
            { Field: var field } => Text($"It is too large as it lies, {b.Width:0.#} × {b.Height:0.#} mm; turned by 90° it would fit the field of {field.Width:0.#} × {field.Height:0.#} mm."),
            null => Text($"It is too large: {b.Width:0.#} × {b.Height:0.#} mm, and the largest field of {model.Name} is {largest.Width:0.#} × {largest.Height:0.#} mm."),
        };
    }

    private static string? StitchesRefused(SewingMachineModel model, StitchFile file) =>
        file.StitchCount > model.MostStitches ? Text($"It has {file.StitchCount:N0} stitches; {model.Name} takes {model.MostStitches:N0}.") : null;

    private static string? ChangesRefused(SewingMachineModel model, StitchFile file) =>
        model.MostThreadChanges is { } most && file.ThreadChanges > most ? $"It has {file.ThreadChanges} thread changes; {model.Name} takes {most}." : null;

    private static string? TitleRefused(SewingMachineModel model, StitchFile file) =>
        model.NameLength is { } most && (file.Title.Length > most || !Titles.IsPlain(file.Title)) ? $"The title in it, “{file.Title}”, has to be at most {most} plain letters and digits." : null;

    /// <summary>The smallest field in which every needle point lies, or null.</summary>
    private static HoopField? FieldFor(SewingMachineModel model, StitchFile file) => model.Hoops.FirstOrDefault(field =>
    {
        for (var i = 0; i < file.Stitches.Count; i++)
            if (file.Stitches.Kinds[i] == StitchKind.Stitch && !field.Holds(file.Stitches.At(i)))
                return false;
        return true;
    });

    private static string Shown(SewingMachineModel model, StitchFile file) => Text(
        $"{file.Title} · {file.Bounds.Width:0.#} × {file.Bounds.Height:0.#} mm in {FieldFor(model, file)!.Width:0} × {FieldFor(model, file)!.Height:0} · {file.StitchCount:N0} stitches · {file.ThreadChanges} thread changes");

    private static string Text(FormattableString text) => text.ToString(CultureInfo.InvariantCulture);
}
