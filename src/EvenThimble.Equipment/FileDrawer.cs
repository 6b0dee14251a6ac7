using EvenThimble.Core.Files;

namespace EvenThimble.Equipment;

/// <summary>A file cannot be put where it should go; the message is a sentence for the user.</summary>
public sealed class EquipmentException(string message) : Exception(message);

/// <summary>A file in a drawer.</summary>
public sealed record DrawerFile(string Name, long Bytes);

/// <summary>A folder that files lie flat in: the memory of a machine, or a stick with a size. Nothing outside it is touched.</summary>
/// <param name="folder">The folder; made when it is missing.</param>
/// <param name="capacity">How many bytes it holds; null: as many as the disk.</param>
public sealed class FileDrawer(string folder, long? capacity = null)
{
    private const int LongestName = 120;

    /// <summary>How many bytes it holds, or null.</summary>
    public long? Capacity => capacity;

    /// <summary>How many bytes its files take.</summary>
    public long Used => Files().Sum(f => f.Bytes);

    /// <summary>Its files by name. What is being written does not count yet.</summary>
    public IReadOnlyList<DrawerFile> Files()
    {
        Directory.CreateDirectory(folder);
        return [.. new DirectoryInfo(folder).EnumerateFiles().Where(f => !f.Name.StartsWith('.')).OrderBy(f => f.Name, StringComparer.OrdinalIgnoreCase).Select(f => new DrawerFile(f.Name, f.Length))];
    }

    /// <summary>Whether a file of that name is there, in any case of letters.</summary>
    public bool Has(string name) => Files().Any(f => f.Name.Equals(name, StringComparison.OrdinalIgnoreCase));

    /// <summary>The bytes of a file.</summary>
    /// <exception cref="EquipmentException">There is none of that name.</exception>
    public byte[] Read(string name) => Existing(name) is { } file ? File.ReadAllBytes(PathOf(file.Name)) : throw new EquipmentException($"There is no file {name} here.");

    /// <summary>Puts a file in, whole or not at all.</summary>
    /// <exception cref="EquipmentException">The name is not possible or taken, or there is no room; nothing was changed.</exception>
    public void Put(string name, byte[] bytes, bool replace)
    {
        var there = Existing(Checked(name));
        if (there is not null && !replace) throw new EquipmentException($"There is a file {there.Name} already. Choose another name, or replace it.");
        if (capacity is { } most && Used - (there?.Bytes ?? 0) + bytes.Length > most)
            throw new EquipmentException($"There is no room for {name}: it needs {bytes.Length / 1024 + 1:N0} kB, and {(most - Used) / 1024:N0} kB are free. Delete something there first.");
        try
        {
            Directory.CreateDirectory(folder);
            AtomicFile.Write(PathOf(there?.Name ?? name), bytes);
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            throw new EquipmentException($"{name} could not be written: the disk is full or does not allow it. What was there before is still there.");
        }
    }

    /// <summary>Takes a file out. False when it was not there.</summary>
    public bool Delete(string name)
    {
        if (Existing(name) is not { } file) return false;
        File.Delete(PathOf(file.Name));
        return true;
    }

    /// <summary>A name that is not taken: the wanted one, or with a number before its ending.</summary>
    public string FreeName(string name)
    {
        var (stem, ending) = (Path.GetFileNameWithoutExtension(name), Path.GetExtension(name));
        return Enumerable.Range(1, int.MaxValue).Select(n => n == 1 ? name : $"{stem}-{n}{ending}").First(n => !Has(n));
    }

    private DrawerFile? Existing(string name) => Files().FirstOrDefault(f => f.Name.Equals(name, StringComparison.OrdinalIgnoreCase));

    private string PathOf(string name) => Path.Combine(folder, name);

    private static string Checked(string name)
    {
        var fine = name.Length is > 0 and <= LongestName && !name.StartsWith('.') && name.Trim() == name
            && name.IndexOfAny(['/', '\\', ':', '*', '?', '"', '<', '>', '|']) < 0 && !name.Any(char.IsControl);
        return fine ? name : throw new EquipmentException("That file name is not possible: no / \\ : * ? \" < > |, no dot or space at its beginning, at most 120 letters.");
    }
}
