using EvenThimble.Core.Cutting;
using EvenThimble.Core.Files.Cut;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Text;

namespace EvenThimble.Equipment;

/// <summary>A stand-in cutter: a folder and a rule book. It looks at the files it is given and lists those that it can cut.</summary>
/// <param name="Model">What make it is.</param>
/// <param name="Memory">Its folder.</param>
public sealed record Cutter(CutterModel Model, FileDrawer Memory)
{
    private const double OverTheEdge = 0.1;

    /// <summary>Its own list, with the reason for every file that it does not list.</summary>
    public IReadOnlyList<MachineListing> List(int most = int.MaxValue) => ListOf(Memory, Memory.Files().Take(most));

    /// <summary>What it would list of files in a drawer, such as a stick put into it.</summary>
    public IReadOnlyList<MachineListing> ListOf(FileDrawer drawer, IEnumerable<DrawerFile> files) => [.. files.Select(f => Look(f.Name, f.Bytes, () => drawer.Read(f.Name, CutFormats.LargestFile)))];

    /// <summary>Looks at one file as the cutter does when it makes its list.</summary>
    public MachineListing Look(string fileName, long size, Func<byte[]> read)
    {
        MachineListing Not(string why) => new(fileName, size, why, string.Empty);
        if (Model.Takes.FirstOrDefault(k => fileName.EndsWith(k.Extension, StringComparison.OrdinalIgnoreCase)) is not { } kind)
            return Not($"{Model.Name} only looks at files that end in {string.Join(" or ", Model.Takes.Select(k => k.Extension))}.");
        if (size > CutFormats.LargestFile) return Not("It is larger than any cut file.");
        try
        {
            var bytes = read();
            if (CutFormats.Of(kind) is not { } format) return Picture(fileName, size, bytes);
            var file = format.Read(bytes, Path.GetFileNameWithoutExtension(fileName));
            if (!file.Lines.Any()) return Not("There is no line in it.");
            var box = file.Bounds;
            return box.MinX < -OverTheEdge || box.MinY < -OverTheEdge || box.MaxX > Model.MatWidth + OverTheEdge || box.MaxY > Model.MatHeight + OverTheEdge
                ? Not($"Its lines reach over the mat of {Model.MatWidth:0} × {Model.MatHeight:0} mm.")
                : new(fileName, size, null, Shown(file));
        }
        catch (Exception e) when (e is RefusedException or EquipmentException)
        {
            return Not(e.Message);
        }
    }

    /// <summary>The lines of a file in its memory.</summary>
    /// <exception cref="RefusedException">It holds none that can be cut.</exception>
    public CutFile Read(string fileName)
    {
        var kind = Model.Takes.FirstOrDefault(k => fileName.EndsWith(k.Extension, StringComparison.OrdinalIgnoreCase));
        var format = kind is null ? null : CutFormats.Of(kind);
        return format is null ? throw new StitchFileException("A picture has no lines in it; the cutter finds its edges by itself.") : format.Read(Memory.Read(fileName, CutFormats.LargestFile), Path.GetFileNameWithoutExtension(fileName));
    }

    private MachineListing Picture(string fileName, long size, byte[] bytes)
    {
        var (_, _, width, height) = CutPicture.SizeOf(bytes);
        return width > Model.MatWidth + 1 || height > Model.MatHeight + 1
            ? new(fileName, size, $"The picture is {width:0} × {height:0} mm, and the mat {Model.MatWidth:0} × {Model.MatHeight:0} mm.", string.Empty)
            : new(fileName, size, null, $"picture, {LengthText.Decimals(width, 1)} × {LengthText.Decimals(height, 1)} mm");
    }

    private static string Shown(CutFile file)
    {
        var largest = file.Lines.Select(l => Box.Around(l)).MaxBy(b => b.Width * b.Height);
        return $"{file.Lines.Count()} lines, the largest {LengthText.Decimals(largest.Width, 1)} × {LengthText.Decimals(largest.Height, 1)} mm";
    }
}
