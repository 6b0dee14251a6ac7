using System.Globalization;
using EvenThimble.Storage;

namespace EvenThimble.Web;

/// <summary>What is done to a data folder without serving it: a copy made, a copy put back.</summary>
public static class Maintenance
{
    private const string Usage = "backup [FILE] [--data DIR]   |   restore [FILE] [--data DIR]";

    /// <summary>Whether arguments ask for it.</summary>
    public static bool IsAsked(string[] args) => args is ["backup" or "restore", ..];

    /// <summary>Does it, and tells what was done. 0: done; 1: it could not be, and why is on the error output; 2: the arguments cannot be understood.</summary>
    public static int Run(string[] args)
    {
        var (data, files) = ("data", new List<string>());
        for (var i = 1; i < args.Length; i++)
        {
            if (args[i] == "--data" && i + 1 < args.Length) data = args[++i];
            else if (!args[i].StartsWith('-')) files.Add(args[i]);
            else files.AddRange([args[i], args[i]]);
        }

        if (files.Count > 1)
        {
            Console.Error.WriteLine(Usage);
            return 2;
        }

        try
        {
            Console.WriteLine(args[0] == "backup" ? Backup(Path.GetFullPath(data), files.FirstOrDefault()) : Restore(Path.GetFullPath(data), files.FirstOrDefault()));
            return 0;
        }
        catch (Exception e) when (e is StorageException or IOException or UnauthorizedAccessException)
        {
            Console.Error.WriteLine(e.Message);
            return 1;
        }
    }

    private static string Backup(string data, string? file)
    {
        if (!File.Exists(Path.Combine(data, Database.FileName))) throw new StorageException($"There is no data in {data}. Name the folder with --data.");

        // A server may work in the folder meanwhile: reading takes nothing from it.
        var database = Database.OpenToRead(data);
        if (file is null) return $"A copy was made: {Backups.Make(database, TimeProvider.System).Path}";
        Backups.CopyTo(database, Path.GetFullPath(file));
        return $"A copy was made: {Path.GetFullPath(file)}";
    }

    private static string Restore(string data, string? file)
    {
        var copies = Backups.In(data);
        var copy = file ?? copies.FirstOrDefault(c => Backups.WhatIsWrong(c.Path) is null)?.Path ?? throw new StorageException($"There is no copy that can be used in {Path.Combine(data, "backups")}. Name one.");
        using var folder = DataFolder.Take(data);
        var aside = Backups.Restore(folder, copy, TimeProvider.System);
        var made = copies.FirstOrDefault(c => c.Path == copy) is { } known ? string.Create(CultureInfo.InvariantCulture, $" of {known.MadeAt:yyyy-MM-dd HH:mm} UTC") : string.Empty;
        return $"The copy{made} was put back: {copy}.{(aside is null ? string.Empty : $" What was there lies in {aside}.")}";
    }
}
