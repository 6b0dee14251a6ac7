using System.Collections.Immutable;
using System.IO.Compression;
using EvenThimble.Core.Files.Stitch;
using EvenThimble.Core.LetterSets;
using EvenThimble.Core.Text;
using EvenThimble.Core.Work;

namespace EvenThimble.Core.Files.Letters;

/// <summary>A file as it came, under the path that it had.</summary>
/// <param name="Path">Its name with its folders, parted by <c>/</c>.</param>
/// <param name="Bytes">Its bytes.</param>
public sealed record CameFile(string Path, byte[] Bytes);

/// <summary>Files that are to become a letter set: those of an archive or a folder, and what they hold.</summary>
public static class LetterSetFiles
{
    /// <summary>All files of a set together are not larger, bytes.</summary>
    public const long LargestAltogether = 160L << 20;

    /// <summary>The files of a ZIP, without what systems add to one; nothing in it is used as a path.</summary>
    /// <exception cref="StitchFileException">It is damaged, or holds more than a set can.</exception>
    public static ImmutableArray<CameFile> OfZip(byte[] bytes)
    {
        try
        {
            using var zip = new ZipArchive(new MemoryStream(bytes), ZipArchiveMode.Read);
            var entries = zip.Entries.Where(e => e.FullName.Length > 0 && e.FullName[^1] is not ('/' or '\\') && IsWanted(e.FullName)).ToList();
            if (entries.Count > LetterSetSource.MostFiles + 1) throw new StitchFileException($"The archive holds {entries.Count:N0} files; a letter set has at most {LetterSetSource.MostFiles:N0}.");
            var (left, files) = (LargestAltogether, ImmutableArray.CreateBuilder<CameFile>());
            foreach (var entry in entries)
            {
                WorkBudget.Current.Spend(1);
                files.Add(new(Cleaned(entry.FullName), ZipEntries.Read(entry, ref left, "archive")));
            }

            return WithoutTop([.. files.DistinctBy(f => f.Path)]);
        }
        catch (Exception e) when (e is InvalidDataException or EndOfStreamException or NotSupportedException or ArgumentException or IndexOutOfRangeException)
        {
            throw new StitchFileException("The archive is damaged and cannot be opened. Copy it anew from where it came.");
        }
    }

    /// <summary>The set that files make: each is read as a stitch file; those that are none say why.</summary>
    /// <exception cref="EditRefusedException">There are more than a set can have.</exception>
    public static LetterSetSource Read(string name, IReadOnlyList<CameFile> files)
    {
        if (files.Count > LetterSetSource.MostFiles) throw new EditRefusedException($"A letter set has at most {LetterSetSource.MostFiles:N0} files; these are {files.Count:N0}.");
        return new(NameFor(name), [.. files.OrderBy(f => f.Path, StringComparer.OrdinalIgnoreCase).ThenBy(f => f.Path, StringComparer.Ordinal).Select(Read)]);
    }

    /// <summary>A file of a set read.</summary>
    public static SetFile Read(CameFile file)
    {
        try
        {
            WorkBudget.Current.Spend(file.Bytes.Length / 16);
            return new(file.Path, StitchFormats.Read(file.Bytes, file.Path).File);
        }
        catch (StitchFileException e)
        {
            return new(file.Path, null, e.Message);
        }
    }

    /// <summary>A name that a set can have.</summary>
    public static string NameFor(string name) => Titles.Clean(name) is { Length: > 0 } clean ? clean : "Letter set";

    /// <summary>A path as it is kept: clean names parted by <c>/</c>.</summary>
    public static string Cleaned(string path) =>
        string.Join('/', path.Split('/', '\\').Select(p => Titles.Clean(p)).Where(p => p.Length > 0 && p is not ("." or ".."))) is { Length: > 0 } clean ? clean : "unnamed";

    /// <summary>What systems put beside the files of a folder is no letter.</summary>
    private static bool IsWanted(string path) => !path.Split('/', '\\').Any(p => p.StartsWith('.') || p is "__MACOSX" or "Thumbs.db" or "desktop.ini");

    /// <summary>Without the folder that all lie in.</summary>
    private static ImmutableArray<CameFile> WithoutTop(ImmutableArray<CameFile> files)
    {
        while (files.Length > 0 && files[0].Path.IndexOf('/') is var at and > 0 && files[0].Path[..(at + 1)] is var top && files.All(f => f.Path.StartsWith(top, StringComparison.Ordinal)))
            files = [.. files.Select(f => f with { Path = f.Path[top.Length..] })];
        return files;
    }

    /// <summary>The files of a folder and of those in it.</summary>
    /// <exception cref="StitchFileException">There are more than a set can have.</exception>
    public static ImmutableArray<CameFile> OfFolder(string folder)
    {
        var paths = Directory.EnumerateFiles(folder, "*", SearchOption.AllDirectories).Select(p => (Full: p, Path: Path.GetRelativePath(folder, p).Replace('\\', '/'))).Where(p => IsWanted(p.Path)).OrderBy(p => p.Path, StringComparer.Ordinal).Take(LetterSetSource.MostFiles + 2).ToList();
        if (paths.Count > LetterSetSource.MostFiles + 1) throw new StitchFileException($"The folder holds more than {LetterSetSource.MostFiles:N0} files, more than a letter set has.");
        var left = LargestAltogether;
        return
        [
            .. paths.Select(p =>
            {
                if ((left -= new FileInfo(p.Full).Length) < 0) throw new StitchFileException($"The files of the folder are larger than {LargestAltogether >> 20} MB together, far more than a letter set has.");
                return new CameFile(Cleaned(p.Path), File.ReadAllBytes(p.Full));
            }),
        ];
    }
}
